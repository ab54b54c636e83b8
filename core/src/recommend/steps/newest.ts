import { z } from 'zod';
import { readDate } from '../../formula';
import { candidatesOf, defineStep, kept, rankedBy, valueOf, type Product } from '../define';
import { dayOf } from '../lines';

const schema = z.strictObject({ kind: z.literal('newest') });

/** A date of a product in milliseconds; 0 where it has none. */
export function dateOf({ record }: Product, name: string): number {
  const value = valueOf(record, name);
  if (value instanceof Date) return value.getTime();
  return typeof value === 'string' ? (readDate(value)?.getTime() ?? 0) : 0;
}
export const isoDay = (at: number): string => new Date(at).toISOString().slice(0, 10);

export const newest = defineStep({
  kind: 'newest',
  name: 'Newest',
  description: 'What came into the catalog last.',
  schema,
  make: () => ({ kind: 'newest' as const }),
  fields: [],
  *candidates(_, shop, { now }) {
    const all = kept(shop, `newest ${dayOf(now)}`, () =>
      rankedBy(shop.products, (product) => {
        const at = dateOf(product, 'added_at');
        return at > now ? 0 : at;
      }),
    );
    yield* candidatesOf(all, ({ score }) => ({
      figure: `in the catalog since ${isoDay(score)}`,
      reason: 'New in the shop',
    }));
  },
});
