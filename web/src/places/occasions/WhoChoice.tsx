import { useState } from 'react';
import { Select } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import type { Recipient } from '@carafe/contract';
import { occasionsApi } from '../../app/occasionsApi';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

/** Chooses a person by words of their name or address; two of one name are told apart by it. */
export function WhoChoice({
  shop,
  person,
  onPerson,
}: {
  shop: string;
  person: Recipient | null;
  onPerson: (person: Recipient) => void;
}) {
  const [words, setWords] = useState('');
  const [q] = useDebouncedValue(words, 200);
  const { data } = occasionsApi.useRecipientsQuery({ shop, having: 'all', q, limit: 12 });
  const found = data?.recipients ?? [];
  const all = person && !found.some(({ id }) => id === person.id) ? [person, ...found] : found;
  return (
    <Select
      aria-label={t('person')}
      size="xs"
      searchable
      allowDeselect={false}
      placeholder={t('aPerson')}
      nothingFoundMessage={t('nobodyByThatName')}
      filter={({ options }) => options}
      data={all.map(({ id, name, email }) => ({ value: String(id), label: name || email }))}
      renderOption={({ option: { value, label } }) => {
        const email = all.find(({ id }) => String(id) === value)?.email;
        return (
          <span>
            {label}
            {email !== label && <span className={classes.address}>{email}</span>}
          </span>
        );
      }}
      comboboxProps={{ width: 260, position: 'bottom-start' }}
      value={person ? String(person.id) : null}
      onSearchChange={setWords}
      onChange={(to) => {
        const chosen = all.find(({ id }) => String(id) === to);
        if (chosen) onPerson(chosen);
      }}
    />
  );
}
