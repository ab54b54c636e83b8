import { useEffect, useState } from 'react';
import { Select } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useSearchParams } from 'react-router';
import type { Having } from '@carafe/contract';
import { PlaceHead, PlaceSearch } from '../../parts/PlaceHead';
import { useShop } from '../../parts/useShop';
import outbox from '../outbox/Outbox.module.css';
import { PeopleRows, type PeopleAsked } from './PeopleRows';
import { PersonDrawer } from './PersonDrawer';

const WITH: { value: Having; label: string }[] = [
  { value: 'all', label: 'Everybody' },
  { value: 'cart', label: 'With a cart' },
  { value: 'order', label: 'With an order' },
];
const NEWSLETTERS = [
  { value: 'yes', label: 'Agreed to newsletters' },
  { value: 'no', label: 'No newsletters' },
];

/** Everybody a shop knows, from files and from events, as templates see them. */
export function PeoplePlace() {
  const { shop, choice } = useShop();
  const [params, setParams] = useSearchParams();
  const [words, setWords] = useState('');
  const [q] = useDebouncedValue(words.trim(), 250);
  const [having, setHaving] = useState<Having>('all');
  const [consent, setConsent] = useState<'yes' | 'no' | undefined>();
  useEffect(() => {
    document.title = 'People · Carafe';
  }, []);
  const opened = params.get('person');
  const open = (email: string | null) => {
    const next = new URLSearchParams(params);
    if (email === null) next.delete('person');
    else next.set('person', email);
    setParams(next, { replace: true });
  };
  const asked: PeopleAsked = { q, having, ...(consent && { consent }) };
  return (
    <main className={outbox.place}>
      <PlaceHead
        title="People"
        beside={choice}
        hint="Everybody this shop knows, from files and from events, as emails see them."
      />
      <div className={outbox.tools}>
        <PlaceSearch label="Search people" value={words} onChange={setWords} />
        <Select
          size="xs"
          w={150}
          aria-label="Who is listed"
          allowDeselect={false}
          data={WITH}
          value={having}
          onChange={(to) => setHaving((to ?? 'all') as Having)}
        />
        <Select
          size="xs"
          w={190}
          aria-label="Newsletters"
          placeholder="With or without newsletters"
          clearable
          data={NEWSLETTERS}
          value={consent ?? null}
          onChange={(to) => setConsent((to ?? undefined) as 'yes' | 'no' | undefined)}
        />
      </div>
      {shop !== undefined && <PeopleRows {...{ shop, asked }} onOpen={open} />}
      {shop !== undefined && opened !== null && (
        <PersonDrawer key={opened} shop={shop} email={opened} onClose={() => open(null)} />
      )}
    </main>
  );
}
