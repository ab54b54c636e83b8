import { useState } from 'react';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import type { PicksOfPerson, Recipient } from '@carafe/contract';
import { rulesApi } from '../../app/rulesApi';
import { messageOf } from '../../app/ask';

/** A person looked for, one after the other, and what the draft of a rule picks for them. */
export interface Picks {
  words: string;
  setWords: (words: string) => void;
  place: number;
  setPlace: (place: number) => void;
  total: number;
  person: Recipient | undefined;
  data: PicksOfPerson | undefined;
  problem: string | null;
}

export function usePicks(shop: string, rule: string): Picks {
  const [words, setWords] = useState('');
  const [place, setPlace] = useState(0);
  const [query] = useDebouncedValue(words.trim(), 300);
  const { data: found } = rulesApi.useFoundRecipientsQuery({ shop, q: query, offset: place });
  const person = found?.recipients[0];
  const { data, error } = rulesApi.usePicksQuery(
    person || query ? { shop, rule, person: person?.email ?? query, version: 'draft' } : skipToken,
  );
  return {
    ...{ words, place, setPlace, person, data },
    setWords(to) {
      setWords(to);
      setPlace(0);
    },
    total: found?.total ?? 0,
    problem: error ? messageOf(error) : null,
  };
}
