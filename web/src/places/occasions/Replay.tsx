import { useEffect, useRef, useState } from 'react';
import { Button, NumberInput, Progress, SegmentedControl, Select } from '@mantine/core';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Recipient, StoredOccasion } from '@carafe/contract';
import { dayIn } from '@carafe/core/formula';
import {
  allSteps,
  formulasOf,
  REASONS,
  sayStep,
  startKind,
  type Occasion,
  type OccasionFigures,
  type SampleMail,
} from '@carafe/core/occasion';
import { occasionsApi } from '../../app/occasionsApi';
import { counted, figure } from '@carafe/core/words';
import { MailsADay } from './MailsADay';
import { PastMail } from './PastMail';
import { Returns } from './Returns';
import type { TemplateChoice } from './StepForm';
import { useReplay, type ReplaySoFar } from './useReplay';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

interface Props {
  shop: string;
  /** The shop’s time zone. */
  zone: string;
  id: string;
  occasion: Occasion;
  others: readonly StoredOccasion[];
  templates: readonly TemplateChoice[];
  onPerson: (person: Recipient) => void;
}
type Mode = 'replay' | 'rehearse';

/** What an occasion would have done in the last days, or will do with simulated shoppers; beside another where wanted. */
export function Replay({ shop, zone, id, occasion, others, templates, onPerson }: Props) {
  const [mode, setMode] = useState<Mode>('replay');
  const [days, setDays] = useState(60);
  const [beside, setBeside] = useState<string | null>(null);
  const one = useReplay(shop);
  const two = useReplay(shop);
  const other = others.find((each) => each.id === beside);
  const start = () => {
    void one.start({ occasions: [{ id, occasion }], mode, days });
    if (other)
      void two.start({ occasions: [{ id: other.id, occasion: other.occasion }], mode, days });
    else two.stop();
  };
  const asksPicks = [occasion, other?.occasion].some(
    (each) => each && formulasOf(each).some((formula) => /\bpicks\b/.test(formula)),
  );
  const running = one.soFar?.running === true || two.soFar?.running === true;
  // What was asked for at the foot of the page is shown below it.
  const section = useRef<HTMLElement>(null);
  const asked = one.soFar?.asked;
  useEffect(() => {
    if (asked) section.current?.scrollIntoView({ block: 'start' });
  }, [asked]);
  const nameOf = (of: Occasion) => (_: string, step: string) => {
    const found = allSteps(of.steps).find((each) => each.id === step);
    const names = {
      template: (template: string) =>
        templates.find((each) => each.id === template)?.name ?? t('aDeletedTemplate'),
    };
    return found
      ? sayStep(found, names).replace(/ \(switched off\)|, held for approval/, '')
      : step;
  };
  return (
    <section ref={section} className={classes.replay} aria-label={t('replayAndRehearsal')}>
      <div className={classes.line}>
        <SegmentedControl
          size="xs"
          aria-label={t('replayOrRehearsal')}
          value={mode}
          data={[
            { value: 'replay', label: t('replay') },
            { value: 'rehearse', label: t('rehearse') },
          ]}
          onChange={(to) => setMode(to as Mode)}
        />
        <span>{mode === 'replay' ? t('theLast') : t('theNext')}</span>
        <NumberInput
          aria-label={t('daysToReplay')}
          size="xs"
          w={64}
          min={1}
          max={400}
          value={days}
          onChange={(n) => typeof n === 'number' && n > 0 && setDays(Math.min(400, Math.round(n)))}
        />
        <span>{t('daysBeside')}</span>
        <Select
          aria-label={t('togetherWithAnotherOccasion')}
          size="xs"
          w={170}
          clearable
          placeholder={t('noOther')}
          data={others.map((each) => ({ value: each.id, label: each.occasion.name }))}
          value={beside}
          onChange={setBeside}
        />
        {running ? (
          <Button
            variant="default"
            size="compact-sm"
            onClick={() => {
              one.stop();
              two.stop();
            }}
          >
            {t('stop')}
          </Button>
        ) : (
          <Button variant="default" size="compact-sm" onClick={start}>
            {mode === 'replay' ? t('replay') : t('rehearse')}
          </Button>
        )}
      </div>
      <p className={classes.about}>
        {mode === 'replay'
          ? t('whatReallyHappenedReplayedAsIf', {
              which: asksPicks ? t('conditionsOnPicksUseTodaysPicks') : '',
            })
          : t('inventedShoppersWhoBehaveAsYours')}
      </p>
      {[one, two].map(
        ({ problem }, i) =>
          problem && (
            <p key={i} role="alert" className={classes.problem}>
              {problem}
            </p>
          ),
      )}
      <div className={classes.pair}>
        {one.soFar && (
          <Told
            soFar={one.soFar}
            title={occasion.name}
            nameOf={nameOf(occasion)}
            {...{ shop, zone, onPerson }}
            occasion={occasion}
          />
        )}
        {other && two.soFar && (
          <Told
            soFar={two.soFar}
            title={other.occasion.name}
            nameOf={nameOf(other.occasion)}
            {...{ shop, zone, onPerson }}
            occasion={other.occasion}
          />
        )}
      </div>
    </section>
  );
}

interface ToldProps {
  soFar: ReplaySoFar;
  title: string;
  shop: string;
  zone: string;
  occasion: Occasion;
  nameOf: (occasion: string, step: string) => string;
  onPerson: (person: Recipient) => void;
}

function Told({ soFar, title, shop, zone, occasion, nameOf, onPerson }: ToldProps) {
  const { figures, people, from, as_of, asked, running } = soFar;
  const [sample, setSample] = useState<SampleMail | null>(null);
  const two = figures.two_a_day;
  const { ofCart, gone } = startKind(occasion.start.kind);
  const ids = [...new Set(figures.samples.map(({ person }) => person))];
  const { data: some } = occasionsApi.useSomeRecipientsQuery(
    ids.length > 0 && !running ? { shop, ids } : skipToken,
  );
  const whoIs = (id: number) => {
    const found = some?.recipients.find((one) => one.id === id);
    return found ? found.name || found.email : `person ${id}`;
  };
  return (
    <div className={classes.told}>
      <h2>{title}</h2>
      {running && (
        <Progress
          size="sm"
          aria-label={t('replayed')}
          value={(100 * figures.people) / Math.max(1, people)}
        />
      )}
      <p role="status" data-testid="replayed">
        <strong>{counted(figures.mails, 'email')}</strong> {t('to')}{' '}
        <strong>{counted(figures.reached, 'person', 'people')}</strong>
        {t('entered')} {counted(figures.entered, 'time')}; {figure(figures.people)} {t('of')}{' '}
        {figure(people)} {t('peopleChecked')}
      </p>
      <div className={classes.charts}>
        <MailsADay rows={figures.days} days={asked.days} {...{ from, zone, nameOf }} />
        {asked.mode === 'replay' && ofCart && figures.returns.carts > 0 && (
          <Returns returns={figures.returns} />
        )}
      </div>
      <div className={classes.facts}>
        <div>
          <ul>
            {gone !== undefined && (
              <li>
                {t('timesBeforeAFirstEmailGone', {
                  times: counted(figures.ordered_before, 'time'),
                  gone,
                })}
              </li>
            )}
            <li>
              {two.count === 0 ? t('nobody') : counted(two.count, 'person', 'people')}{' '}
              {t('wouldGetTwoEmailsWithinA')}{' '}
              <PeopleLinks ids={two.people} {...{ shop, onPerson }} />
            </li>
            <li>{perPerson(figures)}</li>
          </ul>
          <Stops figures={figures} {...{ nameOf, shop, onPerson }} />
        </div>
      </div>
      {figures.samples.length > 0 && (
        <div className={classes.line}>
          <span>
            {t('openOneAsItWouldWhich', {
              which: asked.mode === 'replay' ? t('haveBeen') : t('be'),
            })}
          </span>
          <Select
            aria-label={t('openAnEmail')}
            size="xs"
            w={300}
            placeholder={t('chooseAnEmail')}
            data={figures.samples.map((one, i) => ({
              value: String(i),
              label: `${dayIn(new Date(one.at), zone).toJSON()}, ${nameOf(one.occasion, one.step)}, ${whoIs(one.person)}`,
            }))}
            value={null}
            onChange={(i) => i !== null && setSample(figures.samples[Number(i)] ?? null)}
          />
        </div>
      )}
      {sample && (
        <PastMail
          {...{ shop, sample, occasion }}
          rehearsal={asked.mode === 'rehearse' ? { days: asked.days, seed: 1, as_of } : undefined}
          onClose={() => setSample(null)}
        />
      )}
    </div>
  );
}

function perPerson({ per_person }: OccasionFigures): string {
  const last = per_person.length - 1;
  const parts = per_person
    .map((n, mails) => [n, mails] as const)
    .filter(([n, mails]) => n > 0 && mails > 0)
    .map(([n, mails]) =>
      t('nGetWhich', { n: figure(n), which: mails === last ? t('mailsOrMore', { mails }) : mails }),
    );
  return parts.length === 0
    ? t('nobodyGetsAnEmail')
    : t('emailsPerPersonParts', { parts: parts.join(', ') });
}

/** Why people got nothing, with those people. */
function Stops({
  figures,
  nameOf,
  shop,
  onPerson,
}: Pick<ToldProps, 'nameOf' | 'shop' | 'onPerson'> & { figures: OccasionFigures }) {
  const stops = [...figures.stops].sort((a, b) => b.count - a.count);
  if (stops.length === 0) return null;
  return (
    <table className={classes.table}>
      <thead>
        <tr>
          <th scope="col">{t('whyNot')}</th>
          <th scope="col">{t('where')}</th>
          <th scope="col">{t('times')}</th>
          <th scope="col">{t('who')}</th>
        </tr>
      </thead>
      <tbody>
        {stops.map(({ occasion, step, why, count, people }) => (
          <tr key={`${occasion} ${step ?? ''} ${why}`}>
            <th scope="row">{REASONS[why]}</th>
            <td>{step === null ? t('atTheStart') : nameOf(occasion, step)}</td>
            <td className="figures">{figure(count)}</td>
            <td>
              <PeopleLinks ids={people} {...{ shop, onPerson }} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A few people, each to be walked through. */
function PeopleLinks({
  ids,
  shop,
  onPerson,
}: {
  ids: readonly number[];
  shop: string;
  onPerson: (person: Recipient) => void;
}) {
  const some = ids.slice(0, 3);
  const { data } = occasionsApi.useSomeRecipientsQuery(
    some.length > 0 ? { shop, ids: some } : skipToken,
  );
  return (
    <>
      {(data?.recipients ?? []).map((one, i) => (
        <span key={one.id}>
          {i > 0 && ', '}
          <button type="button" className={classes.who} onClick={() => onPerson(one)}>
            {one.name || one.email}
          </button>
        </span>
      ))}
    </>
  );
}
