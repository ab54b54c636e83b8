import { useEffect, type ReactNode } from 'react';
import { Select } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { useSearchParams } from 'react-router';
import { api } from '../app/api';
import { wordsOf } from '../words';

const t = wordsOf('parts');

/** The shop that a place is about: the one that its address says, else the one that was looked at last, else the first. */
export function useShop(): { shop: string | undefined; choice: ReactNode } {
  const { data } = api.useShopsQuery();
  const [params, setParams] = useSearchParams();
  const [last, setLast] = useLocalStorage({
    ...{ key: 'carafe.shop', defaultValue: '', getInitialValueInEffect: false },
  });
  const shops = data?.shops ?? [];
  const said = params.get('shop');
  const shop = said ?? (shops.find(({ id }) => id === last) ?? shops[0])?.id;
  useEffect(() => {
    if (said !== null && said !== last) setLast(said);
  }, [said, last, setLast]);
  const choice = shops.length > 1 && (
    <Select
      aria-label={t('shop')}
      w={220}
      allowDeselect={false}
      data={shops.map(({ id, name }) => ({ value: id, label: name }))}
      value={shop ?? null}
      onChange={(to) => to && setParams({ shop: to })}
    />
  );
  return { shop, choice };
}
