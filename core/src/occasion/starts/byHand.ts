import { z } from 'zod';
import { defineStart } from '../define';

export const byHand = defineStart({
  kind: 'by_hand',
  name: 'By hand',
  description: 'For people who are chosen from a list: carts left now, orders not paid.',
  schema: z.strictObject({ kind: z.literal('by_hand') }),
  make: () => ({ kind: 'by_hand' as const }),
  fields: [],
  say: () => 'When somebody is chosen by hand',
  causes: () => [],
});
