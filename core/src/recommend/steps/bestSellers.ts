import { z } from 'zod';
import { defineStep, scored, type Shop } from '../define';
import { dayOf } from '../history';

const schema = z.strictObject({
  kind: z.literal('best_sellers'),
  /** The last so many days count. */
  days: z.number().int().min(1).max(3650),
  by: z.enum(['units', 'revenue', 'buyers']),
  /** What was sold so many days ago counts half; all alike where it is left out. */
  half_life: z.number().int().min(1).max(3650).optional(),
});
type BestSellers = z.infer<typeof schema>;

const kept = new WeakMap<Shop, Map<string, Float64Array>>();

/** What each product of the history sold, as the step counts it; reckoned once a day for a step. */
export function sales(shop: Shop, step: BestSellers, now: number): Float64Array {
  const known = kept.get(shop) ?? new Map<string, Float64Array>();
  kept.set(shop, known);
  const key = `${dayOf(now)} ${JSON.stringify(step)}`;
  const sold = known.get(key) ?? reckoned(shop, step, now);
  known.set(key, sold);
  return sold;
}

function reckoned(
  { history }: Shop,
  { days, by, half_life: half }: BestSellers,
  now: number,
): Float64Array {
  const { bought, products } = history;
  const sold = new Float64Array(products.all.length);
  const today = dayOf(now);
  const seen = new Set<number>();
  const people = history.people.all.length;
  for (let i = 0; i < bought.product.length; i++) {
    const age = today - (bought.day[i] ?? 0);
    if (age < 0 || age >= days) continue;
    const product = bought.product[i] ?? 0;
    const units = bought.quantity[i] ?? 0;
    const key = product * people + (bought.person[i] ?? 0);
    const isNew = !seen.has(key);
    if (by === 'buyers') seen.add(key);
    const amount =
      by === 'units' ? units : by === 'revenue' ? units * (bought.price[i] ?? 0) : isNew ? 1 : 0;
    const weight = half === undefined ? 1 : 0.5 ** (age / half);
    sold[product] = (sold[product] ?? 0) + amount * weight;
  }
  return sold;
}

const WORDS = {
  units: (n: number) => `sold ${n} times`,
  revenue: (n: number) => `sold for ${n}`,
  buyers: (n: number) => `bought by ${n} people`,
};

export const bestSellers = defineStep({
  kind: 'best_sellers',
  name: 'Best sellers',
  description: 'What sold best of late.',
  schema,
  make: () => ({ kind: 'best_sellers' as const, days: 90, by: 'units' as const }),
  candidates(step, shop, { now }) {
    const sold = sales(shop, step, now);
    return scored(
      shop.products,
      ({ number }) => (number === undefined ? 0 : (sold[number] ?? 0)),
      (_, score) => ({
        figure: `${WORDS[step.by](Math.round(score * 10) / 10)} in ${step.days} days`,
        reason: 'Much bought of late',
      }),
    );
  },
});
