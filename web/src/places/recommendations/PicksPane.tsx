import { useState } from 'react';
import { ActionIcon, Group, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import type { Rule } from '@carafe/core/recommend';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { ago } from '../../parts/ago';
import { PickedList } from '../../parts/PickedList';
import classes from './Recommendations.module.css';

/** What a rule picks for one person, why, and what it passed over; changing as the rule is edited. */
export function PicksPane({ shop, rule }: { shop: string; rule: Rule }) {
  const [words, setWords] = useState('');
  const [place, setPlace] = useState(0);
  const [query] = useDebouncedValue(words.trim(), 300);
  const { data: found } = api.useFoundRecipientsQuery({ shop, q: query, offset: place });
  const person = found?.recipients[0];
  const total = found?.total ?? 0;
  const { data, error } = api.usePicksQuery(
    person || query ? { shop, rule: rule.name, person: person?.email ?? query } : skipToken,
  );
  return (
    <section className={classes.picks} aria-label="Picks">
      <Group gap={4} align="flex-end" wrap="nowrap">
        <TextInput
          label="Picks for"
          size="xs"
          flex={1}
          placeholder="Name or address"
          value={words}
          onChange={({ currentTarget: { value } }) => {
            setWords(value);
            setPlace(0);
          }}
        />
        <ActionIcon
          variant="default"
          size={30}
          aria-label="Previous person"
          disabled={place === 0}
          onClick={() => setPlace(place - 1)}
        >
          <IconChevronLeft size={16} />
        </ActionIcon>
        <ActionIcon
          variant="default"
          size={30}
          aria-label="Next person"
          disabled={place + 1 >= total}
          onClick={() => setPlace(place + 1)}
        >
          <IconChevronRight size={16} />
        </ActionIcon>
      </Group>
      <p className={classes.who}>
        {person
          ? `${person.name || 'No name'}, ${person.email}`
          : 'Somebody of whom nothing is known'}
      </p>
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && (
        <>
          <PickedList {...data} />
          {data.picks.length < rule.number && (
            <p className="quiet">
              {data.picks.length} of {rule.number}: add a step that finds more, or let less fall
              through.
            </p>
          )}
          <p className="quiet">Counts what people did up to {ago(data.as_of, new Date())}.</p>
        </>
      )}
    </section>
  );
}
