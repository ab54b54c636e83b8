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
  /** For each step: how many products of the pool it puts forward, and how many of these fall through. */
  steps: { offered: number; through: number }[];
}

/** Counts what each step of a rule can draw from for one person. */
export function sieveOf(rule: Rule, shop: Shop, asked: Asked): Sieve {
  const pool = new Set(productsInPool(rule, shop, asked.now).map(({ sku }) => sku));
  const excluded = exclusions(rule, shop, asked);
  return {
    products: shop.products.length,
    pool: pool.size,
    steps: rule.steps.map(({ step }) => {
      let [offered, through] = [0, 0];
      for (const { product } of stepKind(step.kind).candidates(step, shop, asked)) {
        if (!pool.has(product.sku)) continue;
        offered++;
        if (excluded(product) !== null) through++;
      }
      return { offered, through };
    }),
  };
}
