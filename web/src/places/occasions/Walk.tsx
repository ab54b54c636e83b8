import { useMemo, useState } from 'react';
import { NumberInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import { Link } from 'react-router';
import type { Recipient, WalkLine } from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { AskedValues } from '../../parts/AskedValues';
import { WhoChoice } from './WhoChoice';
import { momentOf } from '../../parts/moment';
import classes from './Occasions.module.css';

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
  const real = (why?.lines ?? []).filter((line) => line.occasion === id);
  return (
    <section className={classes.walk} aria-label="One person" aria-busy={isFetching}>
      <div className={classes.line}>
        <WhoChoice shop={shop} person={person} onPerson={onPerson} />
        <span>in the last</span>
        <NumberInput
          aria-label="Days"
          size="xs"
          w={64}
          min={1}
          max={400}
          value={days}
          onChange={(n) => typeof n === 'number' && n > 0 && setDays(Math.min(400, n))}
        />
        <span>days</span>
      </div>
      {error && <p className={classes.problem}>{messageOf(error)}</p>}
      <div className="label">As if it had been on</div>
      {data && data.lines.length === 0 && (
        <p className="quiet">It would not have started for this person.</p>
      )}
      <Lines lines={data?.lines ?? []} onStep={onStep} />
      {real.length > 0 && (
        <>
          <div className="label">What it did</div>
          <Lines lines={[...real].reverse()} onStep={onStep} />
        </>
      )}
      {person && (
        <Link
          className={classes.small}
          to={`/outbox?shop=${shop}&email=${encodeURIComponent(person.email)}`}
        >
          Emails to {person.name || person.email}
        </Link>
      )}
    </section>
  );
}

function Lines({ lines, onStep }: { lines: readonly WalkLine[]; onStep: (step: string) => void }) {
  return (
    <ol className={classes.lines}>
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
