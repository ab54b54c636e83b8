import { useEffect, useState } from 'react';
import { useDebouncedValue } from '@mantine/hooks';
import { ENDPOINTS } from '@carafe/contract';
import { api } from '../app/api';
import { ask } from '../app/ask';
import { productOf } from './product';

/** So many are proposed of each catalog. */
const MOST_PROPOSED = 12;

/** What was found for some words: SKUs with what each product is called. */
export interface ProductsFound {
  asked: string;
  names: ReadonlyMap<string, string>;
  /** The rows of the catalog, by SKU. */
  rows: ReadonlyMap<string, Record<string, unknown>>;
}

/** Products of a shop’s catalogs that have some words in them; null until the first answer. */
export function useProductSearch(shop: string | undefined, words: string): ProductsFound | null {
  const { data } = api.useSourcesQuery();
  const [asked] = useDebouncedValue(words, 200);
  const [found, setFound] = useState<ProductsFound | null>(null);
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
        const products = pages
          .flatMap(({ rows }) => rows.map(({ record }) => ({ record, ...productOf(record) })))
          .filter(({ sku }) => sku !== '');
        const by = <T>(of: (one: (typeof products)[number]) => T) =>
          new Map(products.map((one) => [one.sku, of(one)]));
        if (isLatest)
          setFound({ asked, names: by((one) => one.name), rows: by((one) => one.record) });
      })
      // Products are only proposed: a SKU can be typed as well.
      .catch(() => undefined);
    return () => {
      isLatest = false;
    };
  }, [ids, asked]);
  return found;
}
