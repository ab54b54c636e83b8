import { useEffect, useMemo, useState } from 'react';
import { Button, Checkbox, Popover } from '@mantine/core';
import { nodeNames } from '@carafe/core/template';
import { groupBy, sayVariant, usualBits, type VariantFigure } from '@carafe/core/variant';
import { useAppSelector } from '../../../app/store';
import { counted, figure } from '@carafe/core/words';
import { useLooked } from './looked';
import { MailThumb } from '../../../parts/mails/MailThumb';
import { useFilledDraft } from '../../../parts/mails/filledDraft';
import { useLookAt } from './useLookAt';
import type { SurveySoFar } from '../../../parts/mails/surveyAll';
import classes from './Everyone.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const ROWS = 8;
const KINDS = [
  ['condition', t('conditions')],
  ['list', t('howManyMembersListsShow')],
  ['value', t('blanksAndFallbacks')],
  ['address', t('missingLinksAndPictures')],
  ['picks', t('stepsThatPicksComeFrom')],
] as const;
type Kind = (typeof KINDS)[number][0];

/** Every different outcome of the template, the most usual first. */
export function Variants({ soFar }: { soFar: SurveySoFar }) {
  const { survey, of: template } = soFar;
  const [off, setOff] = useState<ReadonlySet<Kind>>(new Set());
  const [rows, setRows] = useState(ROWS);
  const id = useAppSelector((s) => s.desk.id) ?? '';
  const looked = useLooked(id);
  const groups = useMemo(
    () => groupBy(survey.variants, (i) => !off.has(survey.decisions[i]?.kind ?? 'value')),
    [survey, off],
  );
  const usual = useMemo(() => usualBits(groups, survey.decisions.length), [groups, survey]);
  const nameOf = useMemo(() => nodeNames(template), [template]);
  const held = survey.facts['held']?.people ?? 0;
  const seen = groups.filter(({ key }) => looked.has(key)).length;
  return (
    <section aria-label={t('variants')}>
      <p className={classes.line} role="status">
        {counted(groups.length, 'different email')} {t('for')}{' '}
        {counted(survey.people, 'person', 'people')}
        {seen > 0 && t('seenTicked', { seen: figure(seen) })}
        <Popover position="bottom-end" withArrow shadow="md">
          <Popover.Target>
            <Button variant="subtle" size="compact-xs">
              {t('whatMakesThemDifferent')}
            </Button>
          </Popover.Target>
          <Popover.Dropdown>
            {KINDS.filter(([kind]) => survey.decisions.some((one) => one.kind === kind)).map(
              ([kind, label]) => (
                <Checkbox
                  key={kind}
                  size="xs"
                  mb={6}
                  label={label}
                  checked={!off.has(kind)}
                  onChange={({ currentTarget: { checked } }) => {
                    const next = new Set(off);
                    if (checked) next.delete(kind);
                    else next.add(kind);
                    setOff(next);
                  }}
                />
              ),
            )}
          </Popover.Dropdown>
        </Popover>
      </p>
      {held > 0 && (
        <p className="quiet">
          {t('whichTheConditionUnderSendOnly', {
            which:
              held === survey.people
                ? t('noneOfThemIsSent')
                : t('heldOfThemAreNotSent', { held: figure(held) }),
          })}
        </p>
      )}
      <ol className={classes.variants}>
        {groups.slice(0, rows).map((variant) => (
          <Row
            key={variant.key}
            variant={variant}
            soFar={soFar}
            words={sayVariant(variant, usual, survey.decisions, nameOf)}
            looked={looked}
          />
        ))}
      </ol>
      {groups.length > rows && (
        <Button variant="default" size="compact-sm" onClick={() => setRows(rows + 2 * ROWS)}>
          {t('showMoreOfNumber', { number: figure(groups.length) })}
        </Button>
      )}
    </section>
  );
}

function Row({
  variant: { key, people, person },
  soFar: { survey, of: template },
  words,
  looked,
}: {
  variant: VariantFigure;
  soFar: SurveySoFar;
  words: string;
  looked: ReturnType<typeof useLooked>;
}) {
  const lookAt = useLookAt();
  const { mail, problem } = useFilledDraft(template, person);
  const { settle } = looked;
  useEffect(() => {
    if (mail) settle(key, mail);
  }, [mail, key, settle]);
  const share = (people / Math.max(1, survey.people)) * 100;
  return (
    <li className={classes.variant}>
      <button
        type="button"
        className={classes.open}
        aria-label={t('showWords', { words })}
        onClick={() => {
          lookAt(person);
          if (mail) looked.tick(key, mail);
        }}
      >
        <MailThumb mail={mail} problem={problem} />
      </button>
      <div className={classes.about}>
        <span className={classes.words}>{words}</span>
        <span className={classes.share} aria-hidden>
          <span style={{ width: `${Math.max(1, share)}%` }} />
        </span>
        <span className="quiet">
          {counted(people, 'person', 'people')}, {share < 1 ? t('under1') : Math.round(share)} %
        </span>
        <Checkbox
          size="xs"
          label={t('lookedAt')}
          checked={looked.has(key)}
          onChange={({ currentTarget: { checked } }) =>
            checked && mail ? looked.tick(key, mail) : looked.untick(key)
          }
        />
      </div>
    </li>
  );
}
