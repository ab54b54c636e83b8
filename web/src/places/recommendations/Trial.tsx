import { useRef, useState } from 'react';
import { Button, Select } from '@mantine/core';
import { scaleLinear } from 'd3-scale';
import { ENDPOINTS, type StoredRule, type TrialAnswer } from '@carafe/contract';
import type { Measure, Rule, Tried } from '@carafe/core/recommend';
import { ask, messageOf } from '../../app/ask';
import { useLive } from '../../app/live';
import { counted, figure } from '@carafe/core/words';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

interface Props {
  stored: StoredRule;
  others: readonly StoredRule[];
  /** Takes weights over that did better. */
  onWeights: (rule: Rule) => void;
}

type Answered = TrialAnswer & { against: string | null; tuned: boolean };

/** A rule tried on the past: would it have shown what people ordered, better than best sellers and chance? */
export function Trial({ stored: { id, rule }, others, onWeights }: Props) {
  const [against, setAgainst] = useState<string | null>(null);
  const [answer, setAnswer] = useState<Answered | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [done, setDone] = useState<number | null>(null);
  const running = useRef<AbortController | null>(null);
  useLive((update) => {
    if (update.type === 'trial' && update.rule === id && running.current) setDone(update.done);
  });
  const start = async (tune: boolean) => {
    const own = new AbortController();
    running.current = own;
    setDone(0);
    setProblem(null);
    try {
      const body = { ...(against !== null && { against }), ...(tune && { tune }) };
      const told = await ask(ENDPOINTS.tryRule, { params: { id }, body }, own.signal);
      if (running.current === own) setAnswer({ ...told, against, tuned: tune });
    } catch (error) {
      if (!own.signal.aborted) setProblem(messageOf(error));
    } finally {
      if (running.current === own) {
        running.current = null;
        setDone(null);
      }
    }
  };
  const stop = () => {
    running.current?.abort();
    running.current = null;
    setDone(null);
  };
  const choices = others
    .filter((one) => one.id !== id)
    .map((one) => ({ value: one.id, label: one.rule.label }));
  return (
    <section aria-label={t('testOnPastOrders')} className={classes.part}>
      <div className={classes.title}>
        <h2>{t('testOnPastOrders')}</h2>
        {done === null ? (
          <>
            <Button variant="default" size="compact-xs" onClick={() => void start(false)}>
              {t('try')}
            </Button>
            {rule.mixed && rule.steps.length > 1 && (
              <Button variant="default" size="compact-xs" onClick={() => void start(true)}>
                {t('findWeights')}
              </Button>
            )}
          </>
        ) : (
          <Button variant="default" size="compact-xs" onClick={stop}>
            {t('stop')}
          </Button>
        )}
        <Select
          aria-label={t('beside')}
          size="xs"
          w={180}
          clearable
          placeholder={t('compareWithAnotherRule')}
          data={choices}
          value={against}
          onChange={setAgainst}
        />
        <span className="quiet" role="status">
          {done === null ? '' : t('peopleDone', { people: counted(done, 'person', 'people') })}
        </span>
      </div>
      <p className="quiet">{t('forEverybodyWhoHasOrderedMore')}</p>
      {problem && <p role="alert">{problem}</p>}
      {answer && answer.result.people === 0 && (
        <p className="quiet">{t('nobodyHasOrderedTwiceYetSo')}</p>
      )}
      {answer && answer.result.people > 0 && (
        <Told
          answer={answer}
          rule={rule}
          other={others.find((one) => one.id === answer.against)?.rule.label}
          onWeights={onWeights}
        />
      )}
    </section>
  );
}

interface ToldProps {
  answer: Answered;
  rule: Rule;
  other: string | undefined;
  onWeights: (rule: Rule) => void;
}

function Told({
  answer: { result, weights, tuned, left_out: leftOut },
  rule,
  other,
  onWeights,
}: ToldProps) {
  const [own, second, third] = result.rules;
  const lines: [string, Tried | undefined][] = [
    [rule.label, own],
    ...(tuned ? ([[t('withOtherWeights'), second]] as [string, Tried | undefined][]) : []),
    ...(other === undefined
      ? []
      : ([[other, tuned ? third : second]] as [string, Tried | undefined][])),
    [t('plainBestSellers'), result.best_sellers],
    [t('atRandom'), result.at_random],
  ];
  const most = Math.max(0.01, ...lines.map(([, tried]) => tried?.hits.high ?? 0));
  return (
    <>
      <table className={classes.trial}>
        <thead>
          <tr>
            <th scope="col">
              {t('ofPeople', { people: counted(result.people, 'person', 'people') })}
            </th>
            <th scope="col">{t('hits95Interval')}</th>
            <th scope="col">{t('moreThanBestSellers')}</th>
            <th scope="col">{t('found')}</th>
            <th scope="col">{t('position')}</th>
            <th scope="col">{t('products')}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map(
            ([name, tried]) =>
              tried && (
                <tr key={name}>
                  <th scope="row">{name}</th>
                  <td>
                    <Interval measure={tried.hits} most={most} />
                  </td>
                  <td>{tried === result.best_sellers ? '–' : more(tried.more)}</td>
                  <td>{percent(tried.recall.mean)}</td>
                  <td>{tried.rank.mean === 0 ? '–' : tried.rank.mean.toFixed(2)}</td>
                  <td>{figure(tried.products)}</td>
                </tr>
              ),
          )}
        </tbody>
      </table>
      {leftOut.length > 0 && (
        <p>{t('leftOutOfThisTestBecause', { leftOut: leftOut.join('; ') })}</p>
      )}
      <p className="quiet">{t('foundTheAverageShareOfAn')}</p>
      {other !== undefined && result.between && (
        <p>
          {rule.label} {t('against')} {other}
          {t('personByPerson')} {more(result.between)}.
        </p>
      )}
      {weights && second && (
        <p>
          {t('onTheEarlierHalfOfThe')} {weights.slice(0, -1).join(', ')}{' '}
          {t('didBestTheTableShowsThe')}{' '}
          <Button
            variant="default"
            size="compact-xs"
            onClick={() =>
              onWeights({
                ...rule,
                steps: rule.steps.map((step, i) => ({ ...step, weight: weights[i] ?? 1 })),
              })
            }
          >
            {t('useTheseWeights')}
          </Button>
        </p>
      )}
    </>
  );
}

const percent = (value: number): string => `${(100 * value).toFixed(1)} %`;
const signed = (value: number): string => `${value > 0 ? '+' : ''}${(100 * value).toFixed(1)}`;

/** How much more often it hit, and whether that is more than chance. */
function more({ mean, low, high }: Measure): string {
  const sure = low > 0 ? 'more' : high < 0 ? 'fewer' : t('perhapsChance');
  return t('meanPointsLowToHighSure', {
    mean: signed(mean),
    low: signed(low),
    high: signed(high),
    sure,
  });
}

const WIDTH = 150;

function Interval({ measure: { mean, low, high }, most }: { measure: Measure; most: number }) {
  const x = scaleLinear([0, most], [2, WIDTH - 2]);
  return (
    <span className={classes.interval}>
      <svg width={WIDTH} height={14} aria-hidden>
        <line x1={x(low)} x2={x(high)} y1={7} y2={7} />
        <line x1={x(low)} x2={x(low)} y1={3} y2={11} />
        <line x1={x(high)} x2={x(high)} y1={3} y2={11} />
        <circle cx={x(mean)} cy={7} r={3.5} />
      </svg>
      {percent(mean)}{' '}
      <span className="quiet">{t('lowToHigh', { low: percent(low), high: percent(high) })}</span>
    </span>
  );
}
