import { z } from 'zod';
import { defineStep, nameOf, ranked, type Asked, type Candidate, type Shop } from '../define';
import { boughtBy } from '../history';

const schema = z.strictObject({
  kind: z.literal('bought_together'),
  /** What the others go with. */
  seed: z.enum(['cart', 'latest_order', 'all_orders', 'named']),
  /** Of a named seed: the products. */
  skus: z.array(z.string().max(200)).max(50).optional(),
});
type BoughtTogether = z.infer<typeof schema>;

function seedsOf({ seed, skus = [] }: BoughtTogether, shop: Shop, asked: Asked): readonly string[] {
  switch (seed) {
    case 'cart':
      return asked.cart;
    case 'latest_order':
      return asked.latest;
    case 'named':
      return skus;
    case 'all_orders': {
      const { bought, products } = shop.history;
      const lines = boughtBy(shop.history, asked.person);
      return [
        ...new Set(Array.from(lines, (line) => products.all[bought.product[line] ?? 0] ?? '')),
      ];
    }
  }
}

export const boughtTogether = defineStep({
  kind: 'bought_together',
  name: 'Bought together',
  description: 'What people bought who bought what is in the cart, or was.',
  schema,
  make: () => ({ kind: 'bought_together' as const, seed: 'cart' as const }),
  candidates(step, shop, asked) {
    const best = new Map<string, Candidate>();
    const seeds = seedsOf(step, shop, asked);
    const own = new Set(seeds);
    for (const sku of seeds) {
      const seed = shop.bySku.get(sku);
      const number = shop.history.products.find(sku);
      if (number === undefined) continue;
      for (const pair of shop.pairs.of(number)) {
        const other = shop.history.products.all[pair.product] ?? '';
        const product = shop.bySku.get(other);
        const score = shop.pairs.score(pair);
        const before = best.get(other);
        if (!product || own.has(other) || (before && before.score >= score)) continue;
        const name = seed ? nameOf(seed) : sku;
        best.set(other, {
          ...{ product, score },
          figure: `bought together with ${name} by ${pair.people} people, ${pair.lift.toFixed(1)} × more than by chance`,
          reason: `Goes with your ${name}`,
        });
      }
    }
    return ranked([...best.values()]);
  },
});
