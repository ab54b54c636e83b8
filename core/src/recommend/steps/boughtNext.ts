import { z } from 'zod';
import { bestFirst, candidatesOf, defineStep, kept } from '../define';
import { followersOf } from '../follows';
import { counted } from '../../words';
import { sayPeople } from '../pairs';
import { bestBeside, ownOf, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

const schema = z.strictObject({
  kind: z.literal('bought_next'),
  /** What the others follow. */
  seed: Seed,
  skus: Skus.optional(),
});

export const boughtNext = defineStep({
  kind: 'bought_next',
  name: 'Bought next',
  description: 'What people ordered later who had ordered the same: seeds, then pots, then feed.',
  schema,
  make: () => ({ kind: 'bought_next' as const, seed: 'latest_order' as const }),
  fields: SEED_FIELDS,
  *candidates(step, shop, asked) {
    const found = bestBeside(shop, seedsOf(step, shop, asked), (seed) =>
      kept(shop, `next ${seed}`, () => followersOf(shop.history, seed)),
    );
    yield* candidatesOf(bestFirst(found), ({ beside: { people, days, lift }, seed }) => ({
      figure: `bought after ${seed} by ${sayPeople(people)}, usually ${counted(days, 'day')} later, ${lift.toFixed(1)} × more than by chance`,
      reason: `Often follows ${ownOf(step.seed, seed)}`,
    }));
  },
});
