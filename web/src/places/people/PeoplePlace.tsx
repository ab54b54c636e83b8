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
import { wordsOf } from '../../words';

const t = wordsOf('people');

const WITH: { value: Having; label: string }[] = [
  { value: 'all', label: t('everybody') },
  { value: 'cart', label: t('withACart') },
  { value: 'order', label: t('withAnOrder') },
];
const NEWSLETTERS = [
  { value: 'yes', label: t('agreedToNewsletters') },
  { value: 'no', label: t('noNewsletters') },
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
    document.title = t('peopleCarafe');
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
      <PlaceHead title={t('people')} beside={choice} hint={t('everybodyThisShopKnowsFromFiles')} />
      <div className={outbox.tools}>
        <PlaceSearch label={t('searchPeople')} value={words} onChange={setWords} />
        <Select
          size="xs"
          w={150}
          aria-label={t('whoIsListed')}
          allowDeselect={false}
          data={WITH}
          value={having}
          onChange={(to) => setHaving((to ?? 'all') as Having)}
        />
        <Select
          size="xs"
          w={190}
          aria-label={t('newsletters')}
          placeholder={t('withOrWithoutNewsletters')}
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
