import { z } from 'zod';
import { dayIn, instantOf } from '../../formula';
import { standing } from '../../record';
import { defineStart, type Moment } from '../define';
import { Duration, after, sayDuration } from '../duration';

const schema = z.strictObject({ kind: z.literal('looked_at'), after: Duration });

/** Whether a product was bought since, or lies in the cart. */
const isTaken = ({ shopper }: Moment, sku: string, since: number): boolean =>
  (shopper.cart?.lines.some((line) => line.sku === sku) ?? false) ||
  standing(shopper.orders).some(
    ({ placed_at, lines }) =>
      instantOf(placed_at) >= since && lines.some((line) => line.sku === sku),
  );

export const lookedAt = defineStart({
  kind: 'looked_at',
  name: 'A product is looked at and not bought',
  description: 'Somebody looked at it, and neither put it into the cart nor ordered it.',
  schema,
  make: () => ({ kind: 'looked_at' as const, after: { n: 1, unit: 'days' as const } }),
  fields: [
    { control: 'number', path: 'after.n', before: 'and not bought within', after: '', most: 1000 },
    {
      ...{ control: 'choice', path: 'after.unit', before: '' },
      options: [
        { value: 'hours', label: 'hours' },
        { value: 'days', label: 'days' },
      ],
    },
  ],
  say: (start) => `When a product was looked at and not bought within ${sayDuration(start.after)}`,
  causes: (start, moment) => {
    const { happening, zone, at } = moment;
    if (happening?.kind !== 'person' || happening.event?.kind !== 'viewed') return [];
    const { sku } = happening.event;
    const seen = instantOf(happening.event.at);
    return seen > at || isTaken(moment, sku, seen)
      ? []
      : // One day’s looking at a product is one cause.
        [
          {
            cause: `looked ${sku} ${dayIn(new Date(seen), zone).toJSON()}`,
            due: after(seen, start.after, zone),
            about: { sku },
          },
        ];
  },
  stands: (_, moment, { sku = '' }) => {
    const seen = moment.looked.get(sku) ?? moment.at - 30 * 86_400_000;
    return !isTaken(moment, sku, seen);
  },
  gone: 'The product was bought, or lies in the cart.',
});
