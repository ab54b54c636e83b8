import type { Value } from '../formula';
import { skuOf } from './loop';
import type { Tally } from './tally';

/** Remembers a product that is shown, for loops below that leave out what was. */
export function noteProduct(products: Set<unknown>, member: unknown): void {
  const sku = skuOf(member);
  if (sku !== undefined && sku !== null && sku !== '') products.add(sku);
}

/** Tells of the products that a list offers, and of those that stand above it already. */
export function noteOffers(
  tally: Tally,
  above: ReadonlySet<unknown>,
  shown: readonly Value[],
): void {
  for (const member of shown) {
    const sku = skuOf(member);
    if (typeof sku !== 'string' || sku === '') continue;
    if (above.has(sku)) tally.twice.add(sku);
    tally.offered.add(sku);
  }
}
