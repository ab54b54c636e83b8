import { z } from 'zod';
import { candidatesOf, defineStep, kept, rankedBy } from '../define';
import { DAY_MS, dayOf } from '../lines';
import { dateOf, isoDay } from './newest';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('back_in_stock'),
  /** Back for at most so many days. */
  days: z.number().int().min(1).max(365),
});

export const backInStock = defineStep({
  kind: 'back_in_stock',
  name: 'Back in stock',
  description:
    'What was out of stock until an import brought it back, or has a field restocked_at.',
  schema,
  make: () => ({ kind: 'back_in_stock' as const, days: 14 }),
  fields: [{ control: 'number', path: 'days', before: 'for at most', after: 'days', most: 365 }],
  *candidates({ days }, shop, { now }) {
    const all = kept(shop, `restocked ${dayOf(now)} ${days}`, () =>
      rankedBy(shop.products, (product) => {
        const at = Math.max(shop.restocked.get(product.sku) ?? 0, dateOf(product, 'restocked_at'));
        return at > now || now - at > days * DAY_MS ? 0 : at;
      }),
    );
    yield* candidatesOf(all, ({ score }) => ({
      figure: `back since ${isoDay(score)}`,
      reason: reasonIn(shop, 'backInStock'),
    }));
  },
});
