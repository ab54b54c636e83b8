import { z } from 'zod';
import { dayIn } from '../../formula';
import { defineStart, type Moment } from '../define';

const schema = z.strictObject({
  kind: z.literal('product_changed'),
  change: z.enum(['cheaper', 'back']),
  among: z.enum(['cart', 'looked_at', 'either']),
});
type Start = z.infer<typeof schema>;

const DAY = 86_400_000;
/** What was looked at so long ago at most still interests somebody, in days. */
const LATELY = 60;

function interests({ among }: Start, { shopper, looked, at }: Moment, sku: string): boolean {
  const inCart = shopper.cart?.lines.some((line) => line.sku === sku) ?? false;
  const seen = looked.get(sku);
  const isLooked = seen !== undefined && at - seen <= LATELY * DAY;
  return among === 'cart' ? inCart : among === 'looked_at' ? isLooked : inCart || isLooked;
}

const OF: Record<Start['among'], string> = {
  cart: 'something in somebody’s cart',
  looked_at: `something that somebody looked at in ${LATELY} days`,
  either: 'something in somebody’s cart, or that they looked at,',
};

export const productChanged = defineStart({
  kind: 'product_changed',
  name: 'A product is cheaper, or there again',
  description: 'One that somebody has in the cart or looked at lately.',
  schema,
  make: () => ({
    kind: 'product_changed' as const,
    change: 'cheaper' as const,
    among: 'either' as const,
  }),
  fields: [
    {
      ...{ control: 'choice', path: 'change', before: 'The product is' },
      options: [
        { value: 'cheaper', label: 'cheaper than before' },
        { value: 'back', label: 'in stock again' },
      ],
    },
    {
      ...{ control: 'choice', path: 'among', before: 'and somebody' },
      options: [
        { value: 'either', label: 'has it in the cart or looked at it' },
        { value: 'cart', label: 'has it in the cart' },
        { value: 'looked_at', label: 'looked at it' },
      ],
    },
  ],
  say: (start) =>
    `When ${OF[start.among]} ${start.change === 'cheaper' ? 'becomes cheaper' : 'is in stock again'}`,
  causes: (start, moment) => {
    const { happening, at, zone } = moment;
    if (happening?.kind !== 'product' || happening.change !== start.change) return [];
    const { sku, change, since = at } = happening;
    if (!interests(start, moment, sku)) return [];
    // One day’s change of a product is one cause, however often the catalog is brought in.
    const day = dayIn(new Date(since), zone).toJSON();
    return [{ cause: `${change} ${sku} ${day}`, due: at, about: { sku } }];
  },
});
