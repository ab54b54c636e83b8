import { z } from 'zod';
import { candidatesOf, defineStep, kept, numberOf, rankedBy, type Product } from '../define';
import { reasonIn } from '../reasons';

const schema = z.strictObject({ kind: z.literal('price_dropped') });

/** By which share of the price before a product is cheaper now. */
const dropOf = ({ record }: Product): number => {
  const [price, was] = [numberOf(record, 'price'), numberOf(record, 'was_price')];
  return price > 0 && was > price ? (was - price) / was : 0;
};

export const priceDropped = defineStep({
  kind: 'price_dropped',
  name: 'Price lowered',
  description: 'What costs less than before, the largest reduction first.',
  schema,
  make: () => ({ kind: 'price_dropped' as const }),
  fields: [],
  *candidates(_, shop) {
    const all = kept(shop, 'dropped', () => rankedBy(shop.products, dropOf));
    yield* candidatesOf(all, ({ score }) => ({
      figure: `${Math.round(score * 100)} % less than before`,
      reason: reasonIn(shop, 'priceLowered'),
    }));
  },
});
