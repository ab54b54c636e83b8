import { useLayoutEffect, useMemo, useRef, useState, type Ref } from 'react';
import { NumberInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import { Link } from 'react-router';
import type { Recipient, WalkLine } from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { AskedValues } from '../../parts/AskedValues';
import { roomBefore } from './besideSteps';
import { WhoChoice } from './WhoChoice';
import { momentOf } from '../../parts/moment';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

interface Props {
  shop: string;
  id: string;
  occasion: Occasion;
  person: Recipient | null;
  onPerson: (person: Recipient) => void;
  onStep: (step: string) => void;
}

/** What this occasion would have done with one person, each condition with its values; and what it did. */
export function Walk({ shop, id, occasion, person, onPerson, onStep }: Props) {
  const [days, setDays] = useState(60);
  const body = useMemo(
    () => (person ? { id, occasion, person: person.id, days } : null),
    [id, occasion, person, days],
  );
  const [settled] = useDebouncedValue(body, 400);
  const { data, error, isFetching } = occasionsApi.useWalkQuery(
    settled ? { shop, body: settled } : skipToken,
  );
  const { data: why } = occasionsApi.usePersonWhyQuery(
    person ? { shop, email: person.email } : skipToken,
  );
  const lines = data?.lines ?? NONE;
  const last = lines.at(-1)?.cause;
  const latest = useMemo(() => lines.filter(({ cause }) => cause === last), [lines, last]);
  const earlier = lines.filter(({ cause }) => cause !== last);
  const real = (why?.lines ?? []).filter((line) => line.occasion === id);
  return (
    <section className={classes.walk} aria-label={t('onePerson')} aria-busy={isFetching}>
      <div className={classes.line}>
        <WhoChoice shop={shop} person={person} onPerson={onPerson} />
        <span>{t('inTheLast')}</span>
        <NumberInput
          aria-label={t('days')}
          size="xs"
          w={64}
          min={1}
          max={400}
          value={days}
          onChange={(n) => typeof n === 'number' && n > 0 && setDays(Math.min(400, n))}
        />
        <span>{t('days2')}</span>
      </div>
      {error && <p className={classes.problem}>{messageOf(error)}</p>}
      <div className="label">{t('asIfItHadBeenOn')}</div>
      {data && data.lines.length === 0 && <p className="quiet">{t('itWouldNotHaveStartedFor')}</p>}
      <LinesBeside lines={latest} onStep={onStep} />
      {earlier.length > 0 && (
        <>
          <div className="label">{t('earlier')}</div>
          <Lines lines={earlier} onStep={onStep} />
        </>
      )}
      {real.length > 0 && (
        <>
          <div className="label">{t('whatItDid')}</div>
          <Lines lines={[...real].reverse()} onStep={onStep} />
        </>
      )}
      {person && (
        <Link
          className={classes.small}
          to={`/outbox?shop=${shop}&email=${encodeURIComponent(person.email)}`}
        >
          {t('emailsTo')} {person.name || person.email}
        </Link>
      )}
    </section>
  );
}

const NONE: readonly WalkLine[] = [];

/** Lines of one run, each at the height of its step where they stand beside the time line. */
function LinesBeside(props: LinesProps) {
  const { lines } = props;
  const list = useRef<HTMLOListElement>(null);
  useLayoutEffect(() => {
    const { current } = list;
    const columns = current?.closest('[data-columns]');
    if (!current || !columns) return;
    const place = () => {
      const items = [...current.children] as HTMLElement[];
      const tops = new Map(
        [...columns.querySelectorAll<HTMLElement>('[data-step]')].map((step) => [
          step.dataset['step'],
          step.getBoundingClientRect().top,
        ]),
      );
      const rooms = roomBefore(
        items.map((item, i) => ({
          height: item.getBoundingClientRect().height,
          step: tops.get(lines[i]?.step ?? undefined) ?? null,
        })),
        current.getBoundingClientRect().top,
        Number.parseFloat(getComputedStyle(current).rowGap) || 0,
      );
      rooms.forEach((room, i) => items[i]?.style.setProperty('margin-top', `${room}px`));
    };
    place();
    const timeLine = columns.querySelector('[data-time-line]');
    const watch = new ResizeObserver(place);
    watch.observe(columns);
    if (timeLine) watch.observe(timeLine);
    return () => watch.disconnect();
  }, [lines]);
  return <Lines {...props} listRef={list} />;
}

interface LinesProps {
  lines: readonly WalkLine[];
  onStep: (step: string) => void;
  listRef?: Ref<HTMLOListElement>;
}

function Lines({ lines, onStep, listRef }: LinesProps) {
  return (
    <ol className={classes.lines} ref={listRef ?? null}>
      {lines.map((line, i) => (
        <li key={i} data-kind={line.kind} data-no={line.held === false || undefined}>
          <time dateTime={line.at}>{momentOf(line.at)}</time>
          <div>
            {line.step !== null ? (
              <button type="button" onClick={() => line.step !== null && onStep(line.step)}>
                {line.text}
              </button>
            ) : (
              line.text
            )}
            <AskedValues parts={line.parts} />
          </div>
        </li>
      ))}
    </ol>
  );
}
