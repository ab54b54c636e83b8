import { z } from 'zod';
import { bestFirst, candidatesOf, defineStep, kept } from '../define';
import { pairsOf, sayPeople } from '../pairs';
import { bestBeside, ownOf, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

const schema = z.strictObject({
  kind: z.literal('bought_together'),
  /** What the others go with. */
  seed: Seed,
  /** Of a named seed: the products. */
  skus: Skus.optional(),
  /** Pairs of fewer people do not count. */
  least_people: z.number().int().min(2).max(1000).optional(),
});

export const boughtTogether = defineStep({
  kind: 'bought_together',
  name: 'Bought together',
  description: 'What the same people bought as well, at any time, not only in the same order.',
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
    const found = bestBeside(shop, seedsOf(step, shop, asked), (seed) => {
      const pairs = kept(shop, `pairs ${seed}`, () => pairsOf(shop.history, seed));
      const least = step.least_people ?? 0;
      return pairs.filter(({ people }) => people >= least);
    });
    yield* candidatesOf(bestFirst(found), ({ beside: { people, lift }, seed }) => ({
      figure: `bought together with ${seed} by ${sayPeople(people)}, ${lift.toFixed(1)} × more than by chance`,
      reason: `Goes with ${ownOf(step.seed, seed)}`,
    }));
  },
});
