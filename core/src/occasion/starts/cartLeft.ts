import { z } from 'zod';
import { instantOf } from '../../formula';
import type { Cart } from '../../record';
import { defineStart, type About, type Cause, type Moment } from '../define';
import { durationOf, sayDuration } from '../duration';
import type { ShopRules } from '../shopRules';

const MINUTE = 60_000;
const DAY = 86_400_000;

const quietOf = ({ quiet_minutes }: ShopRules): number => quiet_minutes * MINUTE;

/** What starts when nobody touched a cart for the shop's quiet time, from an instant of the cart on. */
export function quietCart(
  { at, rules, shopper: { cart } }: Moment,
  name: string,
  touched: (cart: Cart) => string | undefined,
): readonly Cause[] {
  const since = cart ? touched(cart) : undefined;
  if (!cart || cart.lines.length === 0 || since === undefined) return [];
  const last = Math.max(instantOf(since), instantOf(cart.updated_at));
  const due = last + quietOf(rules);
  if (due < at - rules.give_up_days * DAY) return [];
  return [
    { cause: `${name} ${cart.id} ${new Date(last).toISOString()}`, due, about: { cart: cart.id } },
  ];
}

/** Whether the cart is still there, was not touched since, and is not given up. */
export function cartStands({ at, rules, shopper: { cart } }: Moment, about: About): boolean {
  return (
    cart?.id === about.cart &&
    cart !== null &&
    cart.lines.length > 0 &&
    at - instantOf(cart.updated_at) <= rules.give_up_days * DAY
  );
}

export const cartLeft = defineStart({
  kind: 'cart_left',
  ofCart: true,
  name: 'A cart is left',
  description: 'Nobody touched it for the quiet time that the shop says, and nothing was ordered.',
  schema: z.strictObject({ kind: z.literal('cart_left') }),
  make: () => ({ kind: 'cart_left' as const }),
  fields: [],
  say: (_, rules) => `When a cart has been quiet for ${sayDuration(durationOf(quietOf(rules)))}`,
  causes: (_, moment) => quietCart(moment, 'cart', (cart) => cart.updated_at),
  stands: (_, moment, about) => cartStands(moment, about),
  gone: 'The cart is gone: it was ordered, emptied or given up.',
  quiet: (_, rules) => quietOf(rules),
});
