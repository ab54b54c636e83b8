import { z } from 'zod';
import { candidatesOf, defineStep, kept, nameOf, bestFirst, type Scored } from '../define';
import { pairsOf, type Pair } from '../pairs';
import { ownOf, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

const schema = z.strictObject({
  kind: z.literal('bought_together'),
  /** What the others go with. */
  seed: Seed,
  /** Of a named seed: the products. */
  skus: Skus.optional(),
  /** Pairs of fewer people do not count. */
  least_people: z.number().int().min(2).max(1000).optional(),
});

interface Found extends Scored {
  pair: Pair;
  with: string;
}

export const boughtTogether = defineStep({
  kind: 'bought_together',
  name: 'Bought together',
  description: 'What people bought who bought what is in the cart, or was.',
  schema,
  make: () => ({ kind: 'bought_together' as const, seed: 'cart' as const }),
  fields: [
    ...SEED_FIELDS,
    {
      control: 'number',
      path: 'least_people',
      before: 'by at least',
      after: 'people',
      most: 1000,
      optional: true,
    },
  ],
  *candidates(step, shop, asked) {
    const best = new Map<number, Found>();
    const seeds = seedsOf(step, shop, asked);
    const own = new Set(seeds);
    for (const sku of seeds) {
      const number = shop.history.products.find(sku);
      if (number === undefined) continue;
      const seed = shop.bySku.get(sku);
      const name = seed ? nameOf(seed) : sku;
      for (const pair of kept(shop, `pairs ${number}`, () => pairsOf(shop.history, number))) {
        const product = shop.byNumber[pair.product];
        if (!product || own.has(product.sku) || pair.people < (step.least_people ?? 0)) continue;
        const before = best.get(pair.product);
        if (before && before.score >= pair.score) continue;
        best.set(pair.product, { product, score: pair.score, pair, with: name });
      }
    }
    yield* candidatesOf(bestFirst(best.values()), ({ pair: { people, lift }, with: name }) => ({
      figure: `bought together with ${name} by ${people} people, ${lift.toFixed(1)} × more than by chance`,
      reason: `Goes with ${ownOf(step.seed, name)}`,
    }));
  },
});
