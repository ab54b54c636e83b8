import { useEffect, useState } from 'react';
import { useDebouncedValue } from '@mantine/hooks';
import { ENDPOINTS } from '@carafe/contract';
import { api } from '../app/api';
import { ask } from '../app/ask';

/** So many are proposed of each catalog. */
const MOST_PROPOSED = 12;

const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');

/** Products of a shop’s catalogs that have some words in them, by SKU, with what each is called. */
export function useProductSearch(
  shop: string | undefined,
  words: string,
): ReadonlyMap<string, string> {
  const { data } = api.useSourcesQuery();
  const [asked] = useDebouncedValue(words, 200);
  const [found, setFound] = useState<ReadonlyMap<string, string>>(new Map());
  const catalogs = (data?.sources ?? [])
    .filter(({ target, shop: own }) => target === 'catalog' && (own === null || own === shop))
    .map(({ id }) => id);
  const ids = catalogs.join(' ');
  useEffect(() => {
    if (ids === '') return undefined;
    let isLatest = true;
    const query = { q: asked, limit: MOST_PROPOSED };
    Promise.all(ids.split(' ').map((id) => ask(ENDPOINTS.sourceRows, { params: { id }, query })))
      .then((pages) => {
        const rows = pages.flatMap(({ rows }) => rows.map(({ record }) => record));
        const named = rows.map((one) => [textOf(one['sku']), textOf(one['name'])] as const);
        if (isLatest) setFound(new Map(named.filter(([sku]) => sku !== '')));
      })
      // Products are only proposed: a SKU can be typed as well.
      .catch(() => undefined);
    return () => {
      isLatest = false;
    };
  }, [ids, asked]);
  return found;
}
