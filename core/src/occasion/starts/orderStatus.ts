import { z } from 'zod';
import { instantOf } from '../../formula';
import { defineStart, type About, type Cause, type Moment } from '../define';
import { Duration, after, sayDuration } from '../duration';

const schema = z.strictObject({
  kind: z.literal('order_status'),
  status: z.string().trim().min(1, 'Say which status.').max(100),
  /** So long the order must have it; nothing for as soon as it has it. */
  held: Duration,
});

/** Hot: most are the same, letter by letter, or begin otherwise. */
const same = (a: string, b: string) => a === b || a.toLowerCase() === b.toLowerCase();

const orderOf = ({ shopper }: Moment, about: About) =>
  shopper.orders.find(({ number }) => number === about.order);

export const orderStatus = defineStart({
  kind: 'order_status',
  name: 'An order reaches a status',
  description: 'At once, or when it has had the status for too long, as one that nobody paid.',
  schema,
  make: () => ({
    kind: 'order_status' as const,
    status: 'Sent',
    held: { n: 0, unit: 'hours' as const },
  }),
  fields: [
    {
      ...{ control: 'text', path: 'status', before: 'The status', hint: 'Sent' },
      offers: { valuesOf: 'order.status' },
    },
    { control: 'number', path: 'held.n', before: 'which it has had for', after: '', most: 1000 },
    {
      ...{ control: 'choice', path: 'held.unit', before: '' },
      options: [
        { value: 'minutes', label: 'minutes' },
        { value: 'hours', label: 'hours' },
        { value: 'days', label: 'days' },
        { value: 'weeks', label: 'weeks' },
      ],
    },
  ],
  say: ({ status, held }) =>
    held.n === 0
      ? `When an order becomes “${status}”`
      : `When an order has been “${status}” for ${sayDuration(held)}`,
  causes: ({ status, held }, { shopper, zone }) => {
    const causes: Cause[] = [];
    // Hot: asked at everything that happens.
    for (const order of shopper.orders) {
      if (!same(order.status, status)) continue;
      const since = instantOf(order.status_at ?? order.placed_at);
      causes.push({
        cause: `status ${order.number} ${status.toLowerCase()}`,
        due: after(since, held, zone),
        about: { order: order.number },
      });
    }
    return causes;
  },
  // A mail that says “on its way” is right though the parcel came since; one that asks for payment is not.
  stands: ({ status, held }, moment, about) => {
    const order = orderOf(moment, about);
    return order !== undefined && (held.n === 0 || same(order.status, status));
  },
  gone: 'The order has another status now.',
});
