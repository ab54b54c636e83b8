import { z } from 'zod';
import { candidatesOf, defineStep, type Scored } from '../define';
import { stretchOf } from '../history';
import { dayOf } from '../lines';
import { counted } from '../../words';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('looked_at'),
  days: z.number().int().min(1).max(365),
});

export const lookedAt = defineStep({
  kind: 'looked_at',
  name: 'Recently viewed',
  description: 'What the person looked at and has not bought since, the latest first.',
  schema,
  make: () => ({ kind: 'looked_at' as const, days: 30 }),
  fields: [{ control: 'number', path: 'days', before: 'in the last', after: 'days', most: 365 }],
  *candidates({ days }, shop, { person, now }) {
    const { own: history } = shop;
    const today = dayOf(now);
    const boughtOn = new Map<number, number>();
    const [first, last] = stretchOf(history, history.bought, person);
    for (let i = first; i < last; i++)
      boughtOn.set(history.bought.product[i] ?? 0, history.bought.day[i] ?? 0);
    const [from, to] = stretchOf(history, history.viewed, person);
    const found = new Map<number, Scored & { day: number }>();
    for (let i = to - 1; i >= from; i--) {
      const number = history.viewed.product[i] ?? 0;
      const day = history.viewed.day[i] ?? 0;
      const product = shop.byNumber[number];
      if (day > today || !product || found.has(number)) continue;
      if (today - day >= days) break;
      if ((boughtOn.get(number) ?? -1) >= day) continue;
      found.set(number, { product, score: i - from + 1, day });
    }
    yield* candidatesOf([...found.values()], ({ day }) => ({
      figure: today === day ? 'looked at today' : `looked at ${counted(today - day, 'day')} ago`,
      reason: reasonIn(shop, 'lookedAt'),
    }));
  },
});
