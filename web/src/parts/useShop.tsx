import type { ReactNode } from 'react';
import { Select } from '@mantine/core';
import { useSearchParams } from 'react-router';
import { api } from '../app/api';

/** The shop that a place is about, as its address says; the first one where it says none. */
export function useShop(): { shop: string | undefined; choice: ReactNode } {
  const { data } = api.useShopsQuery();
  const [params, setParams] = useSearchParams();
  const shops = data?.shops ?? [];
  const shop = params.get('shop') ?? shops[0]?.id;
  const choice = shops.length > 1 && (
    <Select
      aria-label="Shop"
      w={220}
      allowDeselect={false}
      data={shops.map(({ id, name }) => ({ value: id, label: name }))}
      value={shop ?? null}
      onChange={(to) => to && setParams({ shop: to })}
    />
  );
  return { shop, choice };
}
