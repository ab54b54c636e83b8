import { z } from 'zod';
import { defineStart } from '../define';
import { durationOf, sayDuration } from '../duration';
import { cartStands, quietCart } from './cartLeft';

export const checkoutLeft = defineStart({
  kind: 'checkout_left',
  ofCart: true,
  name: 'A checkout is left',
  description: 'Somebody went to the checkout, and then nothing came of it for the quiet time.',
  schema: z.strictObject({ kind: z.literal('checkout_left') }),
  make: () => ({ kind: 'checkout_left' as const }),
  fields: [],
  say: (_, { quiet_minutes }) =>
    `When a checkout was begun and has been quiet for ${sayDuration(durationOf(quiet_minutes * 60_000))}`,
  causes: (_, moment) => quietCart(moment, 'checkout', (cart) => cart.checkout_started_at),
  stands: (_, moment, about) => cartStands(moment, about),
  gone: 'The cart is gone: it was ordered, emptied or given up.',
  quiet: (_, { quiet_minutes }) => quiet_minutes * 60_000,
});
