import { z } from 'zod';
import { instantOf } from '../../formula';
import { standing, type Order } from '../../record';
import { defineStart, type Cause } from '../define';

const schema = z.strictObject({
  kind: z.literal('order_placed'),
  which: z.enum(['any', 'first', 'nth', 'product', 'category', 'over']),
  /** Of `nth`: which one. */
  n: z.number().int().min(1).max(1000).optional(),
  /** Of `product`. */
  skus: z.array(z.string().max(200)).max(50).optional(),
  /** Of `category`. */
  category: z.string().max(200).optional(),
  /** Of `over`: the total, in the currency of the order. */
  amount: z.number().min(0).max(1e9).optional(),
});
type Start = z.infer<typeof schema>;

const LONG_AGO = 3 * 86_400_000;

/** Whether an order, the n-th of its person, is one that is meant. */
function isMeant(start: Start, order: Order, place: number): boolean {
  switch (start.which) {
    case 'any':
      return true;
    case 'first':
      return place === 1;
    case 'nth':
      return place === (start.n ?? 1);
    case 'product':
      return order.lines.some(({ sku }) => start.skus?.includes(sku));
    case 'category':
      return order.lines.some(({ category }) => category === start.category);
    case 'over':
      return order.total > (start.amount ?? 0);
  }
}

const SAID: Record<Start['which'], (start: Start) => string> = {
  any: () => 'When an order is placed',
  first: () => 'When somebody places their first order',
  nth: ({ n = 1 }) => `When somebody places their order number ${n}`,
  product: ({ skus = [] }) =>
    skus.length === 1
      ? `When ${skus[0] ?? ''} is ordered`
      : `When one of ${skus.length} products is ordered`,
  category: ({ category = '' }) => `When something of ${category || 'a category'} is ordered`,
  over: ({ amount = 0 }) => `When an order of more than ${amount} is placed`,
};

export const orderPlaced = defineStart({
  kind: 'order_placed',
  name: 'An order is placed',
  description: 'Any order, somebody’s first, one of a product, or one over a sum.',
  schema,
  make: () => ({ kind: 'order_placed' as const, which: 'any' as const }),
  fields: [
    {
      ...{ control: 'choice', path: 'which', before: 'It is' },
      options: [
        { value: 'any', label: 'any order' },
        { value: 'first', label: 'the first of a person' },
        { value: 'nth', label: 'the n-th of a person' },
        { value: 'product', label: 'one with a product' },
        { value: 'category', label: 'one with a category' },
        { value: 'over', label: 'one over a sum' },
      ],
    },
    {
      ...{ control: 'number', path: 'n', before: 'the', after: '-th', most: 1000 },
      when: { path: 'which', is: ['nth'] },
    },
    { control: 'products', path: 'skus', before: 'of', when: { path: 'which', is: ['product'] } },
    {
      ...{ control: 'text', path: 'category', before: 'of the category', hint: 'Bulbs' },
      offers: { valuesOf: 'order.lines.product.category' },
      when: { path: 'which', is: ['category'] },
    },
    {
      ...{ control: 'number', path: 'amount', before: 'over', after: '', most: 1e9 },
      when: { path: 'which', is: ['over'] },
    },
  ],
  say: (start) => SAID[start.which](start),
  causes: (start, { shopper, at }) => {
    const causes: Cause[] = [];
    // Hot: asked at everything that happens. What was ordered long ago starts nothing.
    standing(shopper.orders).forEach((order, i) => {
      const due = instantOf(order.placed_at);
      if (due >= at - LONG_AGO && isMeant(start, order, i + 1))
        causes.push({ cause: `order ${order.number}`, due, about: { order: order.number } });
    });
    return causes;
  },
  stands: (_, { shopper }, about) =>
    standing(shopper.orders).some(({ number }) => number === about.order),
  // A first order that was cancelled makes the next one the first, and nobody is welcomed twice.
  oncePerPerson: ({ which }) => which === 'first',
  gone: 'The order was cancelled.',
});
