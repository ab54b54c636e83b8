import type { Fields } from '../formula';
import { epochAt } from './epochAt';

/** Finds products by SKU. */
export interface Products {
  get(sku: string): Fields | undefined;
}

/** What an import changed of a product: what it cost, and whether there were some. */
export interface ProductChange {
  sku: string;
  /** Milliseconds. */
  at: number;
  /** `price`, `was_price`, `in_stock` and `stock` as they were until then, and from then on; null for no value. */
  before: Fields;
  after: Fields;
}

/** Whether there is some of a product: what says nothing of it is there. */
export function isThere(product: Fields): boolean {
  const { in_stock, stock } = product;
  return in_stock !== false && !(typeof stock === 'number' && stock <= 0);
}

/** What a change comes to for whoever is interested in the product: it is cheaper, or it is back. */
export function whatChanged({ before, after }: ProductChange): ('cheaper' | 'back')[] {
  const changed: ('cheaper' | 'back')[] = [];
  const [was, is] = [before['price'], after['price']];
  if (typeof was === 'number' && typeof is === 'number' && is < was) changed.push('cheaper');
  if (!isThere(before) && isThere(after)) changed.push('back');
  return changed;
}

/** A product with what it was before a change; what was missing then is missing. */
function withBefore(product: Fields, before: Fields): Fields {
  const then: Record<string, unknown> = { ...product };
  for (const [name, value] of Object.entries(before))
    if (value === null || value === undefined) delete then[name];
    else then[name] = value;
  return then;
}

/**
 * Products as they were at instants of the past: as they are now, with what they cost and whether there were some as it
 * was before the first change after that instant. `changes` in any order. For all instants between the same two changes
 * the very same products are given, so that what is put together of them can be kept.
 */
export function productsThen(
  products: Products,
  changes: readonly ProductChange[],
): (at: number) => Products {
  if (changes.length === 0) return () => products;
  const bySku = new Map<string, ProductChange[]>();
  for (const change of [...changes].sort((a, b) => a.at - b.at)) {
    const own = bySku.get(change.sku);
    if (own) own.push(change);
    else bySku.set(change.sku, [change]);
  }
  const times = [...new Set(changes.map(({ at }) => at))].sort((a, b) => a - b);
  const until = times.map((_, epoch): Products => {
    const known = new Map<string, Fields>();
    return {
      get(sku) {
        const own = bySku.get(sku);
        const next = own?.find(({ at }) => at >= (times[epoch] ?? 0));
        const product = products.get(sku);
        if (!next || !product) return product;
        const then = known.get(sku) ?? withBefore(product, next.before);
        known.set(sku, then);
        return then;
      },
    };
  });
  // The first change after the instant.
  return (at) => until[epochAt(times, at)] ?? products;
}
