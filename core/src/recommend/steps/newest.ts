import { z } from 'zod';
import { readDate } from '../../formula';
import { defineStep, scored, type Product } from '../define';

const schema = z.strictObject({ kind: z.literal('newest') });

function addedAt({ record }: Product): number {
  const value = (record as Record<string, unknown>)['added_at'];
  if (value instanceof Date) return value.getTime();
  return typeof value === 'string' ? (readDate(value)?.getTime() ?? 0) : 0;
}

export const newest = defineStep({
  kind: 'newest',
  name: 'Newest',
  description: 'What came into the catalog last.',
  schema,
  make: () => ({ kind: 'newest' as const }),
  candidates: (_, shop, { now }) =>
    scored(
      shop.products,
      (product) => {
        const at = addedAt(product);
        return at > now ? 0 : at;
      },
      (_product, at) => ({
        figure: `in the catalog since ${new Date(at).toISOString().slice(0, 10)}`,
        reason: 'New in the shop',
      }),
    ),
});
