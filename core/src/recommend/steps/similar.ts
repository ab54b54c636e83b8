import { z } from 'zod';
import { bestFirst, candidatesOf, defineStep, kept, nameOf, type Scored } from '../define';
import { mostLike, type Weights } from '../likeness';
import { ownOf, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

const Weight = z.number().min(0).max(10);
const WeightsSchema = z.strictObject({
  words: Weight,
  category: Weight,
  brand: Weight,
  tags: Weight,
  price: Weight,
});
const EVEN: Weights = { words: 3, category: 2, brand: 1, tags: 1, price: 1 };

const schema = z.strictObject({
  kind: z.literal('similar'),
  seed: Seed,
  skus: Skus.optional(),
  /** How much each likeness counts. */
  weights: WeightsSchema,
});

export const similar = defineStep({
  kind: 'similar',
  name: 'Similar',
  description: 'What is like something: by category, brand, tags, price and words.',
  schema,
  make: () => ({ kind: 'similar' as const, seed: 'cart' as const, weights: EVEN }),
  fields: [...SEED_FIELDS, { control: 'weights', path: 'weights', before: 'counting' }],
  *candidates(step, shop, asked) {
    const seeds = seedsOf(step, shop, asked);
    const own = new Set(seeds);
    const best = new Map<string, Scored & { to: string }>();
    for (const sku of seeds) {
      const seed = shop.bySku.get(sku);
      if (!seed) continue;
      const key = `like ${sku} ${Object.values(step.weights).join(' ')}`;
      for (const { product, score } of kept(shop, key, () => mostLike(shop, sku, step.weights))) {
        const before = best.get(product.sku);
        if (own.has(product.sku) || (before && before.score >= score)) continue;
        best.set(product.sku, { product, score, to: nameOf(seed) });
      }
    }
    yield* candidatesOf(bestFirst(best.values()), ({ score, to }) => ({
      figure: `${Math.round(score * 100)} % like ${to}`,
      reason: `Like ${ownOf(step.seed, to)}`,
    }));
  },
});
