import { z } from 'zod';
import { defineStep, scored, type Product } from '../define';

const schema = z.strictObject({ kind: z.literal('price_dropped') });

const numberOf = ({ record }: Product, name: string): number => {
  const value = (record as Record<string, unknown>)[name];
  return typeof value === 'number' ? value : 0;
};

/** By which share of the price before a product is cheaper now. */
const dropOf = (product: Product): number => {
  const [price, was] = [numberOf(product, 'price'), numberOf(product, 'was_price')];
  return price > 0 && was > price ? (was - price) / was : 0;
};

export const priceDropped = defineStep({
  kind: 'price_dropped',
  name: 'Price lowered',
  description: 'What costs less than before, the most first.',
  schema,
  make: () => ({ kind: 'price_dropped' as const }),
  candidates: (_, shop) =>
    scored(shop.products, dropOf, (_product, drop) => ({
      figure: `${Math.round(drop * 100)} % less than before`,
      reason: 'Now at a lower price',
    })),
});
