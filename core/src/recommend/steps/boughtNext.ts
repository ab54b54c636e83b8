import { z } from 'zod';
import { candidatesOf, defineStep, kept } from '../define';
import { FIRST_FOLLOWERS, followersOf } from '../follows';
import { counted } from '../../words';
import { sayPeople } from '../pairs';
import { reasonIn } from '../reasons';
import { bestBeside, bestThenRest, isOwn, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';

const schema = z.strictObject({
  kind: z.literal('bought_next'),
  /** What the others follow. */
  seed: Seed,
  skus: Skus.optional(),
});

export const boughtNext = defineStep({
  kind: 'bought_next',
  name: 'Bought next',
  description: 'What people who had ordered the same ordered next: seeds, then pots, then feed.',
  schema,
  make: () => ({ kind: 'bought_next' as const, seed: 'latest_order' as const }),
  fields: SEED_FIELDS,
  *candidates(step, shop, asked) {
    const seeds = seedsOf(step, shop, asked);
    const find = (isWhole: boolean) =>
      bestBeside(shop, seeds, (seed) => {
        const first = kept(shop, `next ${seed}`, () => followersOf(shop.history, seed));
        return isWhole && first.length === FIRST_FOLLOWERS
          ? kept(shop, `all next ${seed}`, () => followersOf(shop.history, seed, Infinity))
          : first;
      });
    yield* candidatesOf(bestThenRest(find), ({ beside: { people, days, lift }, seed }) => ({
      figure: `bought after ${seed} by ${sayPeople(people)}, usually ${counted(days, 'day')} later, ${lift.toFixed(1)} × more than by chance`,
      reason: reasonIn(shop, isOwn(step.seed) ? 'followsYour' : 'follows', seed),
    }));
  },
});
