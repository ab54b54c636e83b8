import { useEffect, useState } from 'react';
import { ENDPOINTS } from '@carafe/contract';
import { productsNamed, productsWanted, type ProductsWanted } from '@carafe/core/sentence';
import { ask, messageOf } from '../../../app/ask';
import { productOf, type Product } from '../../../parts/product';

/** So many are listed; more are found by looking closer. */
const MOST_LISTED = 60;

/** What is looked for: words that stand anywhere in a product, and what it is to be. */
export interface Asked extends ProductsWanted {
  words: string;
}

export interface Found {
  asked: Asked;
  products: Product[];
  total: number;
  problem: string | null;
}

/** Looks for products of a catalog; what is asked last is shown. */
export function useProducts(source: string, asked: Asked, currency: string): Found | undefined {
  const [found, setFound] = useState<Found>();
  useEffect(() => {
    let isLatest = true;
    const query = { q: asked.words, filter: productsWanted(asked), limit: MOST_LISTED };
    ask(ENDPOINTS.sourceRows, { params: { id: source }, query })
      .then(({ rows, total }) => {
        const products = rows.map((r) => productOf(r.record, currency));
        if (isLatest) setFound({ asked, products, total, problem: null });
      })
      .catch((error: unknown) => {
        if (isLatest) setFound({ asked, products: [], total: 0, problem: messageOf(error) });
      });
    return () => {
      isLatest = false;
    };
  }, [source, asked, currency]);
  return found;
}

/** What products are called by their SKUs: null for one that is not there, nothing for one that is not known yet. */
export type Names = ReadonlyMap<string, string | null>;

/** Asks what products are called; what was known before is kept. */
export function useNames(source: string, skus: readonly string[]): Names {
  const [names, setNames] = useState<Names>(new Map());
  const wanted = skus.filter((sku) => !names.has(sku));
  const filter = wanted.length === 0 ? null : productsNamed(wanted);
  useEffect(() => {
    if (filter === null) return undefined;
    let isLatest = true;
    ask(ENDPOINTS.sourceRows, { params: { id: source }, query: { filter, limit: MOST_LISTED } })
      .then(({ rows }) => {
        const there = rows.map((r) => productOf(r.record));
        const told = new Map(there.map(({ sku, name }) => [sku, name]));
        if (isLatest)
          setNames((known) => {
            return new Map([
              ...known,
              ...wanted.map((sku) => [sku, told.get(sku) ?? null] as const),
            ]);
          });
      })
      // Without names the SKUs stand for themselves; what is wrong with the catalog is told beside.
      .catch(() => undefined);
    return () => {
      isLatest = false;
    };
    // Who is wanted is in the filter.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [source, filter]);
  return names;
}

/** The categories of a catalog, the commonest first. */
export function useCategories(source: string): string[] {
  const [categories, setCategories] = useState<string[]>([]);
  useEffect(() => {
    let isLatest = true;
    ask(ENDPOINTS.sourceProfile, { params: { id: source } })
      .then(({ fields }) => {
        const found = fields.find(({ name }) => name === 'category');
        if (isLatest) setCategories(found?.commonest.map(({ value }) => value) ?? []);
      })
      // They are only proposed: a category can be typed as well.
      .catch(() => undefined);
    return () => {
      isLatest = false;
    };
  }, [source]);
  return categories;
}
