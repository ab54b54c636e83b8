import { z } from 'zod';
import { candidatesOf, defineStep, type Scored } from '../define';
import { Skus } from '../seeds';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('by_hand'),
  skus: Skus,
  /** From this place of the list on, counted from 1; where the step stands, if left out. */
  place: z.number().int().min(1).max(50).optional(),
});

export const byHand = defineStep({
  kind: 'by_hand',
  name: 'Picked by hand',
  description: 'Products that you choose, in your order.',
  schema,
  make: () => ({ kind: 'by_hand' as const, skus: [] as string[] }),
  fields: [
    { control: 'products', path: 'skus', before: '' },
    {
      control: 'number',
      path: 'place',
      before: 'pinned to place',
      after: 'of the list',
      most: 50,
      optional: true,
    },
  ],
  *candidates({ skus }, shop) {
    const found = skus.flatMap((sku, i): Scored[] => {
      const product = shop.bySku.get(sku);
      return product ? [{ product, score: skus.length - i }] : [];
    });
    yield* candidatesOf(found, () => ({
      figure: 'picked by hand',
      reason: reasonIn(shop, 'byHand'),
    }));
  },
});
