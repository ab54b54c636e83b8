import { z } from 'zod';
import { candidatesOf, defineStep, kept, rankedBy, textOf } from '../define';
import { dayOf } from '../lines';
import { counted } from '../../words';
import { Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';
import { categoriesOf, sales } from './bestSellers';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('same_category'),
  seed: Seed,
  skus: Skus.optional(),
});

export const sameCategory = defineStep({
  kind: 'same_category',
  name: 'Same category',
  description: 'Best sellers in the categories of the cart, or of the latest order.',
  schema,
  make: () => ({ kind: 'same_category' as const, seed: 'cart' as const }),
  fields: SEED_FIELDS,
  *candidates(step, shop, asked) {
    const categories = categoriesOf(shop, seedsOf(step, shop, asked));
    if (categories.size === 0) return;
    const year = { kind: 'best_sellers' as const, days: 365, by: 'units' as const };
    const sold = sales(shop, year, asked.now);
    // What nobody bought so far comes behind what somebody did.
    const all = kept(shop, `year ${dayOf(asked.now)}`, () =>
      rankedBy(
        shop.products,
        ({ number }) => 0.5 + (number === undefined ? 0 : (sold[number] ?? 0)),
      ),
    );
    const shown = all.filter(({ product }) => categories.has(textOf(product.record, 'category')));
    yield* candidatesOf(shown, ({ product: { record }, score }) => ({
      figure: `of ${textOf(record, 'category')}, sold ${counted(Math.floor(score), 'time')} in a year`,
      reason: reasonIn(shop, 'moreOf', textOf(record, 'category')),
    }));
  },
});
