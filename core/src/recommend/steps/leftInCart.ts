import { z } from 'zod';
import { candidatesOf, defineStep, kept, rankedBy, type Scored } from '../define';
import { stretchOf, type History } from '../history';
import { dayOf } from '../lines';
import { counted } from '../../words';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('left_in_cart'),
  /** By this person, or by everybody, the most often first. */
  by: z.enum(['person', 'everybody']),
  days: z.number().int().min(1).max(365),
});

/** What somebody (by number) put into a cart in some days and did not buy since: the day of each. */
function leftBy(
  { carted, bought }: History,
  [from, to]: readonly [number, number],
  [first, last]: readonly [number, number],
  { today, days }: { today: number; days: number },
): Map<number, number> {
  const left = new Map<number, number>();
  for (let i = from; i < to; i++) {
    const day = carted.day[i] ?? 0;
    if (day > today || today - day >= days) continue;
    // Put in once more, it counts from then.
    const product = carted.product[i] ?? 0;
    left.delete(product);
    left.set(product, day);
  }
  for (let i = first; i < last; i++) {
    const product = bought.product[i] ?? 0;
    if ((bought.day[i] ?? 0) >= (left.get(product) ?? Number.POSITIVE_INFINITY))
      left.delete(product);
  }
  return left;
}

export const leftInCart = defineStep({
  kind: 'left_in_cart',
  name: 'Left in the cart',
  description: 'What was put into a cart and not bought. Switch off “In the cart” below to use it.',
  schema,
  make: () => ({ kind: 'left_in_cart' as const, by: 'person' as const, days: 60 }),
  fields: [
    {
      control: 'choice',
      path: 'by',
      before: 'by',
      options: [
        { value: 'person', label: 'this person' },
        { value: 'everybody', label: 'everybody, most often first' },
      ],
    },
    { control: 'number', path: 'days', before: 'in the last', after: 'days', most: 365 },
  ],
  *candidates({ by, days }, shop, { person, now }) {
    const { history } = shop;
    const { carted, bought } = history;
    const today = dayOf(now);
    if (by === 'person') {
      const { own } = shop;
      const inCarts = stretchOf(own, own.carted, person);
      const left = leftBy(own, inCarts, stretchOf(own, own.bought, person), { today, days });
      const found = [...left].reverse().flatMap(([number, day]): (Scored & { day: number })[] => {
        const product = shop.byNumber[number];
        return product ? [{ product, score: day, day }] : [];
      });
      yield* candidatesOf(found, ({ day }) => ({
        figure:
          today === day
            ? 'put into the cart today'
            : `put into the cart ${counted(today - day, 'day')} ago`,
        reason: reasonIn(shop, 'leftInCart'),
      }));
      return;
    }
    const all = kept(shop, `left ${today} ${days}`, () => {
      const counts = new Map<number, number>();
      for (let p = 0; p < carted.starts.length - 1; p++) {
        const stretch = (starts: Int32Array) => [starts[p] ?? 0, starts[p + 1] ?? 0] as const;
        const left = leftBy(history, stretch(carted.starts), stretch(bought.starts), {
          today,
          days,
        });
        for (const number of left.keys()) counts.set(number, (counts.get(number) ?? 0) + 1);
      }
      return rankedBy(shop.products, ({ number }) => counts.get(number ?? -1) ?? 0);
    });
    yield* candidatesOf(all, ({ score }) => ({
      figure: `left in ${counted(score, 'cart')} in ${counted(days, 'day')}`,
      reason: reasonIn(shop, 'leftByOthers'),
    }));
  },
});
