import { useState } from 'react';
import { Button, TextInput, UnstyledButton } from '@mantine/core';
import { nanoid } from 'nanoid';
import { repairTemplate, type CheckFinding } from '@carafe/core/checks';
import { nodeNames, type Template } from '@carafe/core/template';
import { useAppSelector } from '../../../app/store';
import { counted } from '@carafe/core/words';
import { SeverityIcon } from '../../../parts/Findings';
import { useEdit } from '../useEdit';
import { AskLinks } from './AskLinks';
import { useLookAt } from './useLookAt';
import { useMakeOne, type MakeTarget } from './useMakeOne';
import type { Checked } from './useSurvey';
import classes from './Everyone.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** What the checks say, the worst first, each with somebody to look at and a repair where there is one. */
export function Checks({ checked }: { checked: Checked | null }) {
  const template = useAppSelector((s) => s.desk.template) as Template;
  const { change } = useEdit();
  const off = template.checks_off ?? [];
  const [silencing, setSilencing] = useState<string | null>(null);
  const again = (check: string) =>
    change('Switch a check on', (draft) => {
      const left = (draft.checks_off ?? []).filter((one) => one.check !== check);
      if (left.length === 0) delete draft.checks_off;
      else draft.checks_off = left;
    });
  if (!checked) return <p className="quiet">{t('theChecksRunWhenEveryEmail')}</p>;
  const { findings, labels } = checked;
  const count = (severity: CheckFinding['severity']) =>
    findings.filter((one) => one.severity === severity).length;
  return (
    <section aria-label={t('checks')}>
      <p className={classes.line} role="status">
        {findings.length === 0
          ? t('noFindingsFromChecks', {
              checks: counted(Object.keys(labels).length - off.length, 'check'),
            })
          : [
              counted(count('error'), 'error'),
              counted(count('warning'), 'warning'),
              counted(count('hint'), 'hint'),
            ].join(', ')}
      </p>
      <ul className={classes.findings}>
        {findings.map((finding, i) => (
          <Finding
            key={`${finding.check} ${finding.node} ${finding.path} ${i}`}
            finding={finding}
            silencing={silencing === `${i}`}
            onSilence={(open) => setSilencing(open ? `${i}` : null)}
          />
        ))}
      </ul>
      <AskLinks />
      {off.length > 0 && (
        <>
          <h3 className={classes.small}>{t('offForThisTemplate')}</h3>
          <ul className={classes.findings}>
            {off.map(({ check, reason }) => (
              <li key={check} className={classes.finding}>
                <span />
                <span>
                  {labels[check] ?? check}: <span className="quiet">{reason}</span>{' '}
                  <UnstyledButton className={classes.act} onClick={() => again(check)}>
                    {t('switchOn')}
                  </UnstyledButton>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** Of a branch that nobody reaches: what somebody would have to reach. */
function targetOf({ check, node }: CheckFinding): MakeTarget | null {
  const decision = { kind: 'condition' as const, node, path: 'when' };
  if (check === 'condition_never') return { decision, outcome: 'held' };
  if (check === 'condition_always') return { decision, outcome: 'not' };
  return check === 'never_reached' ? { node } : null;
}

function Finding({
  finding,
  silencing,
  onSilence,
}: {
  finding: CheckFinding;
  silencing: boolean;
  onSilence: (open: boolean) => void;
}) {
  const template = useAppSelector((s) => s.desk.template) as Template;
  const { change, select } = useEdit();
  const lookAt = useLookAt();
  const { make, busy } = useMakeOne();
  const { check, severity, node, message, person, repair } = finding;
  const target = targetOf(finding);
  return (
    <li className={classes.finding} data-check={check}>
      <SeverityIcon severity={severity} />
      <span>
        {message}
        <span className={classes.acts}>
          {repair && (
            <UnstyledButton
              className={classes.repair}
              onClick={() =>
                change(repair.label, (draft) => repairTemplate(draft, repair, () => nanoid(8)))
              }
            >
              {repair.label}
            </UnstyledButton>
          )}
          <UnstyledButton className={classes.act} onClick={() => select(node || 'envelope')}>
            {nodeNames(template)(node, finding.path)}
          </UnstyledButton>
          {person !== undefined && (
            <UnstyledButton className={classes.act} onClick={() => lookAt(person)}>
              {t('viewOne')}
            </UnstyledButton>
          )}
          {target && (
            <UnstyledButton
              className={classes.act}
              disabled={busy}
              onClick={() => void make(target)}
            >
              {busy ? t('makingOne') : t('makeOne')}
            </UnstyledButton>
          )}
          <UnstyledButton
            className={classes.act}
            aria-expanded={silencing}
            onClick={() => onSilence(!silencing)}
          >
            {t('switchThisCheckOff')}
          </UnstyledButton>
        </span>
        {silencing && <Reason check={check} onDone={() => onSilence(false)} />}
      </span>
    </li>
  );
}

/** A check is switched off for a reason, which stays with the template. */
function Reason({ check, onDone }: { check: string; onDone: () => void }) {
  const { change } = useEdit();
  const [reason, setReason] = useState('');
  return (
    <form
      className={classes.reason}
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim() === '') return;
        change('Switch a check off', (draft) => {
          draft.checks_off = [
            ...(draft.checks_off ?? []).filter((one) => one.check !== check),
            { check, reason: reason.trim() },
          ];
        });
        onDone();
      }}
    >
      <TextInput
        size="xs"
        label={t('whyItDoesNotApplyHere')}
        maxLength={500}
        value={reason}
        data-autofocus
        onChange={({ currentTarget: { value } }) => setReason(value)}
      />
      <Button type="submit" size="xs" variant="default" disabled={reason.trim() === ''}>
        {t('switchOff')}
      </Button>
    </form>
  );
}
