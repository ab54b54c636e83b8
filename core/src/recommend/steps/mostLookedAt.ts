import { z } from 'zod';
import { candidatesOf, defineStep, kept, rankedBy } from '../define';
import { dayOf } from '../lines';
import { counted } from '../../words';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('most_looked_at'),
  /** The last so many days count. */
  days: z.number().int().min(1).max(3650),
});

export const mostLookedAt = defineStep({
  kind: 'most_looked_at',
  name: 'Most viewed',
  description: 'What most people looked at recently.',
  schema,
  make: () => ({ kind: 'most_looked_at' as const, days: 30 }),
  fields: [{ control: 'number', path: 'days', before: 'in the last', after: 'days', most: 3650 }],
  *candidates({ days }, shop, { now }) {
    const today = dayOf(now);
    const all = kept(shop, `looked ${today} ${days}`, () => {
      const { viewed, products } = shop.history;
      const people = new Int32Array(products.all.length);
      const last = new Int32Array(products.all.length).fill(-1);
      for (let p = 0; p < viewed.starts.length - 1; p++)
        for (let i = viewed.starts[p] ?? 0; i < (viewed.starts[p + 1] ?? 0); i++) {
          const age = today - (viewed.day[i] ?? 0);
          const product = viewed.product[i] ?? 0;
          if (age < 0 || age >= days || last[product] === p) continue;
          last[product] = p;
          people[product] = (people[product] ?? 0) + 1;
        }
      return rankedBy(shop.products, ({ number }) =>
        number === undefined ? 0 : (people[number] ?? 0),
      );
    });
    yield* candidatesOf(all, ({ score }) => ({
      figure: `looked at by ${counted(score, 'person', 'people')} in ${counted(days, 'day')}`,
      reason: reasonIn(shop, 'mostLookedAt'),
    }));
  },
});
