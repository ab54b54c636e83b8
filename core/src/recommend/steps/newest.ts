import { z } from 'zod';
import { readDate } from '../../formula';
import {
  candidatesOf,
  defineStep,
  kept,
  rankedBy,
  valueOf,
  type Product,
  type Scored,
} from '../define';
import { DAY_MS, dayOf } from '../lines';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('newest'),
  /** Only what came in the last so many days; whenever it came where it is left out. */
  days: z.number().int().min(1).max(3650).optional(),
  /** In a mix, what is so many days old counts half. */
  half_life: z.number().int().min(1).max(3650).optional(),
});

/** The half-life of what is new, in days, where a step names none. */
const HALF_LIFE = 30;
/** What is so old that its score would be 0 is put forward all the same, last. */
const LEAST = Number.MIN_VALUE;

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
  description: 'What was added to the catalog last.',
  schema,
  make: () => ({ kind: 'newest' as const }),
  fields: [
    {
      control: 'number',
      path: 'days',
      before: 'of the last',
      after: 'days',
      most: 3650,
      optional: true,
      none: 'all',
    },
    {
      control: 'number',
      path: 'half_life',
      before: 'half as new after',
      after: 'days',
      most: 3650,
      optional: true,
      none: String(HALF_LIFE),
    },
  ],
  *candidates({ days = Infinity, half_life: half = HALF_LIFE }, shop, { now }) {
    const byDate = kept(shop, `newest ${dayOf(now)}`, () =>
      rankedBy(shop.products, (product) => {
        const at = dateOf(product, 'added_at');
        return at > now ? 0 : at;
      }),
    );
    function* found(): Generator<Scored & { at: number }> {
      for (const { product, score: at } of byDate) {
        const age = (now - at) / DAY_MS;
        if (age > days) return;
        yield { product, at, score: Math.max(LEAST, 0.5 ** (age / half)) };
      }
    }
    yield* candidatesOf(found(), ({ at }) => ({
      figure: `in the catalog since ${isoDay(at)}`,
      reason: reasonIn(shop, 'newest'),
    }));
  },
});
