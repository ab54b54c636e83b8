import { z } from 'zod';
import { candidatesOf, defineStep, kept, nameOf, bestFirst, type Scored } from '../define';
import { followersOf, type Follower } from '../follows';
import { ownOf, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

const schema = z.strictObject({
  kind: z.literal('bought_next'),
  /** What the others follow. */
  seed: Seed,
  skus: Skus.optional(),
});

interface Found extends Scored {
  follower: Follower;
  after: string;
}

export const boughtNext = defineStep({
  kind: 'bought_next',
  name: 'Bought next',
  description: 'What people ordered later who had ordered the same: seeds, then pots, then feed.',
  schema,
  make: () => ({ kind: 'bought_next' as const, seed: 'latest_order' as const }),
  fields: SEED_FIELDS,
  *candidates(step, shop, asked) {
    const best = new Map<number, Found>();
    const seeds = seedsOf(step, shop, asked);
    const own = new Set(seeds);
    for (const sku of seeds) {
      const number = shop.history.products.find(sku);
      if (number === undefined) continue;
      const seed = shop.bySku.get(sku);
      const after = seed ? nameOf(seed) : sku;
      const followers = kept(shop, `next ${number}`, () => followersOf(shop.history, number));
      for (const follower of followers) {
        const product = shop.byNumber[follower.product];
        if (!product || own.has(product.sku)) continue;
        const before = best.get(follower.product);
        if (before && before.score >= follower.score) continue;
        best.set(follower.product, { product, score: follower.score, follower, after });
      }
    }
    yield* candidatesOf(bestFirst(best.values()), ({ follower, after }) => ({
      figure: `bought after ${after} by ${follower.people} people, usually ${follower.days} days later, ${follower.lift.toFixed(1)} × more than by chance`,
      reason: `Often follows ${ownOf(step.seed, after)}`,
    }));
  },
});
