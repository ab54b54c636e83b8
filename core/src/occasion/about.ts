import type { Shopper } from '../record';
import type { About } from './define';

/** A shopper with the order that a mail is about as their latest: so its blocks show that one. */
export function shopperAbout(shopper: Shopper, { order }: About): Shopper {
  if (order === undefined) return shopper;
  const meant = shopper.orders.filter(({ number }) => number === order);
  if (meant.length === 0) return shopper;
  return {
    ...shopper,
    orders: [...shopper.orders.filter(({ number }) => number !== order), ...meant],
  };
}
