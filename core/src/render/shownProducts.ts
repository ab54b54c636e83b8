import type { OpOf } from '../build/program';
import { fieldOf, isRecord, type Value } from '../formula';
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

/** Says which steps of a recommendation rule chose what a list of its picks shows; undefined for any other list. */
export function pickSteps(
  { node, path }: OpOf<'loop'>,
  list: string,
  tally: Tally,
): ((shown: readonly Value[]) => void) | undefined {
  if (!/\bpicks\b/.test(list)) return undefined;
  const at = tally.decision({ kind: 'picks', node, path, formula: list });
  return (shown) => {
    for (const member of shown) {
      const step = isRecord(member) ? fieldOf(member, 'step') : undefined;
      if (typeof step === 'number') tally.saw(at, 1 << Math.min(4, Math.max(0, step)));
    }
  };
}
