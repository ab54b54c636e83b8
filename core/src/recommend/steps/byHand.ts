import { z } from 'zod';
import { defineStep } from '../define';

const schema = z.strictObject({
  kind: z.literal('by_hand'),
  skus: z.array(z.string().max(200)).max(50),
});

export const byHand = defineStep({
  kind: 'by_hand',
  name: 'Picked by hand',
  description: 'Products that are named, in their order.',
  schema,
  make: () => ({ kind: 'by_hand' as const, skus: [] as string[] }),
  candidates: ({ skus }, shop) =>
    skus.flatMap((sku, i) => {
      const product = shop.bySku.get(sku);
      if (!product) return [];
      const score = skus.length - i;
      return [{ product, score, figure: 'picked by hand', reason: 'Chosen for you' }];
    }),
});
