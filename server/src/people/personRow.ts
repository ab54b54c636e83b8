import type { Fields } from '@carafe/core/formula';
import { spent, standing, type Shopper } from '@carafe/core/record';

/** A person as they are kept: plain data, so that a thread can make it for another, which writes. */
export interface KeptPerson {
  email: string;
  /** JSON. */
  record: string;
  /** How many lines the cart has, and how many orders there are; of them those that stand. */
  lines: number;
  orders: number;
  bought: number;
  /** ISO 8601. */
  last_order_at: string | null;
  spent: number;
  /** JSON. */
  shopper: string;
}

/** What is written of a person. */
export function personRow(email: string, person: Fields, shopper: Shopper): KeptPerson {
  const { orders, cart } = shopper;
  const bought = standing(orders);
  return {
    email,
    record: JSON.stringify(person),
    lines: cart?.lines.length ?? 0,
    orders: orders.length,
    bought: bought.length,
    last_order_at: bought.at(-1)?.placed_at ?? null,
    spent: spent(bought),
    shopper: JSON.stringify(shopper),
  };
}
