import { ActionIcon, Group, TextInput } from '@mantine/core';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import { ago } from '../../parts/ago';
import { PickedList } from '../../parts/PickedList';
import type { Picks } from './usePicks';
import classes from './Recommendations.module.css';
import { useNow } from '../../app/useNow';

/** What a rule picks for one person, why, and what it passed over; changing as the rule is edited. */
export function PicksPane({ picks, number }: { picks: Picks; number: number }) {
  const now = useNow();
  const { words, setWords, place, setPlace, total, person, data, problem } = picks;
  return (
    <section className={classes.picks} aria-label="Picks">
      <Group gap={4} align="flex-end" wrap="nowrap">
        <TextInput
          label="Picks for"
          size="xs"
          flex={1}
          placeholder="Name or address"
          value={words}
          onChange={({ currentTarget: { value } }) => setWords(value)}
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
          : 'A person nothing is known about'}
      </p>
      {problem && <p role="alert">{problem}</p>}
      {data && (
        <>
          <PickedList {...data} />
          {data.picks.length < number && (
            <p className="quiet">
              {data.picks.length} of {number}. Add a step that finds more, or leave out fewer
              products.
            </p>
          )}
          <p className={classes.about}>Counts what people did up to {ago(data.as_of, now)}.</p>
        </>
      )}
    </section>
  );
}
