import type { Asked, Shop } from './define';
import { exclusions } from './exclude';
import { productsInPool } from './pick';
import type { Rule } from './rule';
import { stepKind } from './steps';

/** How much of a shop's products gets through a rule for somebody. */
export interface Sieve {
  /** Products of the catalog, and those of them that are in the pool. */
  products: number;
  pool: number;
  /**
   * For each step: how many products of the pool it puts forward, how many of these fall through, and for how many
   * the steps before it leave room.
   */
  steps: { offered: number; through: number; room: number }[];
}

/** For how many picks each step of a rule has room, after what those before it gave. */
export function roomOf(
  { steps, number, mixed }: Pick<Rule, 'steps' | 'number' | 'mixed'>,
  picks: readonly { step: number }[],
): number[] {
  const isPinned = (i: number) => {
    const step = steps[i]?.step;
    return step?.kind === 'by_hand' && step.place !== undefined;
  };
  const last = steps.length - 1;
  return steps.map(({ take }, i) => {
    // What is pinned comes before all else; of a mix, all but the last are asked together.
    const comesBefore = ({ step }: { step: number }) =>
      isPinned(i)
        ? isPinned(step) && step < i
        : isPinned(step) || (mixed && i < last ? false : step < i);
    const left = number - picks.filter(comesBefore).length;
    return Math.max(0, (mixed && !isPinned(i)) || i === last ? left : Math.min(take, left));
  });
}

/** Counts what each step of a rule can draw from for one person, of whom the picks are known. */
export function sieveOf(
  rule: Rule,
  shop: Shop,
  asked: Asked,
  picks: readonly { step: number }[],
): Sieve {
  const pool = new Set(productsInPool(rule, shop, asked.now).map(({ sku }) => sku));
  const excluded = exclusions(rule, shop, asked);
  const room = roomOf(rule, picks);
  return {
    products: shop.products.length,
    pool: pool.size,
    steps: rule.steps.map(({ step }, i) => {
      let [offered, through] = [0, 0];
      for (const { product } of stepKind(step.kind).candidates(step, shop, asked)) {
        if (!pool.has(product.sku)) continue;
        offered++;
        if (excluded(product) !== null) through++;
      }
      return { offered, through, room: room[i] ?? 0 };
    }),
  };
}
