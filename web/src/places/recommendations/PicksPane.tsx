import { ActionIcon, Group, TextInput } from '@mantine/core';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import { ago } from '../../parts/ago';
import { PickedList } from '../../parts/PickedList';
import type { Picks } from './usePicks';
import classes from './Recommendations.module.css';
import { useNow } from '../../app/useNow';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

/** What a rule picks for one person, why, and what it passed over; changing as the rule is edited. */
export function PicksPane({ picks, number }: { picks: Picks; number: number }) {
  const now = useNow();
  const { words, setWords, place, setPlace, total, person, data, problem } = picks;
  return (
    <section className={classes.picks} aria-label={t('picks')}>
      <Group gap={4} align="flex-end" wrap="nowrap">
        <TextInput
          label={t('picksFor')}
          size="xs"
          flex={1}
          placeholder={t('nameOrAddress')}
          value={words}
          onChange={({ currentTarget: { value } }) => setWords(value)}
        />
        <ActionIcon
          variant="default"
          size={30}
          aria-label={t('previousPerson')}
          disabled={place === 0}
          onClick={() => setPlace(place - 1)}
        >
          <IconChevronLeft size={16} />
        </ActionIcon>
        <ActionIcon
          variant="default"
          size={30}
          aria-label={t('nextPerson')}
          disabled={place + 1 >= total}
          onClick={() => setPlace(place + 1)}
        >
          <IconChevronRight size={16} />
        </ActionIcon>
      </Group>
      <p className={classes.who}>
        {person
          ? `${person.name || t('noName')}, ${person.email}`
          : t('aPersonNothingIsKnownAbout')}
      </p>
      {problem && <p role="alert">{problem}</p>}
      {data && (
        <>
          <PickedList {...data} />
          {data.picks.length < number && (
            <p className="quiet">
              {t('numberOfNumber2AddAStep', { number: data.picks.length, number2: number })}
            </p>
          )}
          <p className={classes.about}>
            {t('countsWhatPeopleDidUpTo', { as_of: ago(data.as_of, now) })}
          </p>
        </>
      )}
    </section>
  );
}
