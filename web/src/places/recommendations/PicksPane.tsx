import { useState } from 'react';
import { TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Rule } from '@carafe/core/recommend';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import classes from './Recommendations.module.css';

/** What a rule picks for one person, why, and what it passed over. */
export function PicksPane({ shop, rule }: { shop: string; rule: Rule }) {
  const [words, setWords] = useState('');
  const [query] = useDebouncedValue(words.trim(), 300);
  const { data: found } = api.useFoundRecipientsQuery({ shop, q: query });
  const person = found?.recipients[0];
  const { data, error } = api.usePicksQuery(
    person || query ? { shop, rule: rule.name, person: person?.email ?? query } : skipToken,
  );
  return (
    <section className={classes.picks} aria-label="Picks">
      <TextInput
        label="Picks for"
        placeholder="Name or address"
        value={words}
        onChange={({ currentTarget: { value } }) => setWords(value)}
      />
      <p className={classes.who}>
        {person
          ? `${person.name || 'No name'}, ${person.email}`
          : 'Somebody of whom nothing is known'}
      </p>
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && (
        <>
          <ol className={classes.picked}>
            {data.picks.map(({ sku, name, step, figure, reason }) => (
              <li key={sku}>
                <strong>{name}</strong>
                <span>{reason}</span>
                <span className="quiet">
                  Step {step + 1}: {figure}
                </span>
              </li>
            ))}
          </ol>
          {data.picks.length < rule.number && (
            <p className="quiet">
              {data.picks.length} of {rule.number}: add a step that finds more.
            </p>
          )}
          {data.passed.length > 0 && (
            <>
              <div className="label">Passed over</div>
              <ul className={classes.passed}>
                {data.passed.map(({ sku, name, why }) => (
                  <li key={sku}>
                    {name} <span className="quiet">{why}</span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
    </section>
  );
}
