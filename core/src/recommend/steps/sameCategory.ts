import { z } from 'zod';
import { defineStep, scored, textOf } from '../define';
import { sales } from './bestSellers';

const schema = z.strictObject({
  kind: z.literal('same_category'),
  seed: z.enum(['cart', 'latest_order']),
});

export const sameCategory = defineStep({
  kind: 'same_category',
  name: 'Same category',
  description: 'What sells best of the categories in the cart, or of the latest order.',
  schema,
  make: () => ({ kind: 'same_category' as const, seed: 'cart' as const }),
  candidates({ seed }, shop, asked) {
    const skus = seed === 'cart' ? asked.cart : asked.latest;
    const categories = new Set(
      skus.map((sku) => textOf(shop.bySku.get(sku)?.record ?? {}, 'category')),
    );
    categories.delete('');
    const sold = sales(shop, { kind: 'best_sellers', days: 365, by: 'units' }, asked.now);
    return scored(
      shop.products.filter(({ record }) => categories.has(textOf(record, 'category'))),
      // What nobody bought so far comes behind what somebody did.
      ({ number }) => 0.5 + (number === undefined ? 0 : (sold[number] ?? 0)),
      ({ record }, score) => ({
        figure: `of ${textOf(record, 'category')}, sold ${Math.floor(score)} times in a year`,
        reason: `More of ${textOf(record, 'category')}`,
      }),
    );
  },
});
