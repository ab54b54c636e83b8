import { z } from 'zod';
import { candidatesOf, defineStep, kept } from '../define';
import { FIRST_PAIRS, pairsOf, sayPeople } from '../pairs';
import { reasonIn } from '../reasons';
import { bestBeside, bestThenRest, isOwn, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

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
  description:
    'What the same people bought as well, at any time, not only in the same order. The latest 200 lines of each person count.',
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
    const seeds = seedsOf(step, shop, asked);
    const least = step.least_people ?? 0;
    const find = (isWhole: boolean) =>
      bestBeside(shop, seeds, (seed) => {
        const first = kept(shop, `pairs ${seed}`, () => pairsOf(shop.history, seed));
        const pairs =
          isWhole && first.length === FIRST_PAIRS
            ? kept(shop, `all pairs ${seed}`, () => pairsOf(shop.history, seed, Infinity))
            : first;
        return pairs.filter(({ people }) => people >= least);
      });
    yield* candidatesOf(bestThenRest(find), ({ beside: { people, lift }, seed }) => ({
      figure: `bought together with ${seed} by ${sayPeople(people)}, ${lift.toFixed(1)} × more than by chance`,
      reason: reasonIn(shop, isOwn(step.seed) ? 'goesWithYour' : 'goesWith', seed),
    }));
  },
});
