import { z } from 'zod';
import { candidatesOf, defineStep, kept, nameOf, type Scored } from '../define';
import { FIRST_LIKE, mostLike, type Weights } from '../likeness';
import { reasonIn } from '../reasons';
import { bestThenRest, isOwn, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

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
  description: 'Similar products, by category, brand, tags, price and words.',
  schema,
  make: () => ({ kind: 'similar' as const, seed: 'cart' as const, weights: EVEN }),
  fields: [...SEED_FIELDS, { control: 'weights', path: 'weights', before: 'counting' }],
  *candidates(step, shop, asked) {
    const seeds = seedsOf(step, shop, asked);
    const own = new Set(seeds);
    const like = (sku: string, isWhole: boolean) => {
      const key = `like ${sku} ${Object.values(step.weights).join(' ')}`;
      const first = kept(shop, key, () => mostLike(shop, sku, step.weights));
      return isWhole && first.length === FIRST_LIKE
        ? kept(shop, `all ${key}`, () => mostLike(shop, sku, step.weights, Infinity))
        : first;
    };
    const find = (isWhole: boolean) => {
      const best = new Map<string, Scored & { to: string }>();
      for (const sku of seeds) {
        const seed = shop.bySku.get(sku);
        if (!seed) continue;
        for (const { product, score } of like(sku, isWhole)) {
          const before = best.get(product.sku);
          if (own.has(product.sku) || (before && before.score >= score)) continue;
          best.set(product.sku, { product, score, to: nameOf(seed) });
        }
      }
      return best.values();
    };
    yield* candidatesOf(bestThenRest(find), ({ score, to }) => ({
      figure: `${Math.round(score * 100)} % like ${to}`,
      reason: reasonIn(shop, isOwn(step.seed) ? 'likeYour' : 'like', to),
    }));
  },
});
