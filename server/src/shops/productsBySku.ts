import type { Fields } from '@carafe/core/formula';
import { productIndex, type Products, type SharedData } from '@carafe/core/record';
import type { SharedParts } from './sharedData';

/**
 * Finds the products of a shop: those that are in the shared data, and others in its catalogs, each read when it is first
 * asked for and kept.
 */
export function productsBySku(
  parts: Pick<SharedParts, 'sources' | 'entries'>,
  shop: string,
  shared: SharedData,
): Products {
  const known = new Map<string, Fields | undefined>(productIndex(shared));
  const catalogs = parts.sources.feeding('catalog', shop);
  const read = (sku: string): Fields | undefined => {
    for (const { id } of catalogs) {
      const product = parts.entries.asRead(id, sku);
      if (product) return product;
    }
    return undefined;
  };
  return {
    get(sku) {
      const found = known.get(sku);
      if (found !== undefined || known.has(sku)) return found;
      const product = read(sku);
      known.set(sku, product);
      return product;
    },
  };
}
