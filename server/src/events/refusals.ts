import { foldEvents, type ShopEvent } from '@carafe/core/record';
import type { EventsRepository, Placed } from './repository';

const time = (iso: string) => iso.slice(0, 16).replace('T', ' ');

/** Why an event of a shop that nobody has cannot be taken. */
export const noShop = (shop: string): string => `There is no shop “${shop}”.`;

/** Why an order cannot be placed once more. */
export function placedBefore(number: string, { id, at }: Placed): string {
  return `Order “${number}” was placed already, at ${time(at)} UTC by the event “${id}”. Each number belongs to one order.`;
}

/** Why an order is not tried any more, of a number that was refused again and again in one request. */
export const toldTooOften = (number: string): string =>
  `Order “${number}” appears many times in this request, and the events before this one were refused. Send it again separately.`;

/** Why an event is not tried any more, of an id that was refused again and again in one request. */
export const idTooOften =
  'Its “id” appears many times in this request, and the events before this one were refused. Send it again separately.';

/** Why an event is not taken whose id another one has. */
export const otherBefore = (id: string): string =>
  `An event with the id “${id}” was received before with different content. Each event needs its own id.`;

type Known = Pick<EventsRepository, 'of' | 'ofVisitor' | 'ownerOf' | 'followsCart'>;
export type PlacedEvent = ShopEvent & { kind: 'order_placed' };

function whyEmpty({ number, lines, at }: PlacedEvent): string {
  return lines
    ? `Order “${number}” has no “currency”, and there is no cart to take it from.`
    : `Order “${number}” has no “lines”, and the cart was empty at ${time(at)} UTC. Send what was ordered as “lines”, or the events of the cart before it.`;
}

/**
 * Of orders that leave it to the cart what was ordered, those that come to nothing, with the reason. The
 * events are kept already, and whose they are has been found out. Where that is not plain from the event
 * before, everybody's events are folded, once.
 */
export function emptyOrders<T extends { event: PlacedEvent }>(
  events: Known,
  placed: readonly T[],
): { one: T; message: string }[] {
  const byOwner = new Map<string, T[]>();
  for (const one of placed) {
    const { shop, id, email, visitor, lines, currency } = one.event;
    if ((lines && currency) || events.followsCart(shop, id)) continue;
    const owner = email ?? events.ownerOf(shop, id);
    const key = JSON.stringify([shop, owner, owner === null ? (visitor ?? '') : null]);
    const known = byOwner.get(key);
    if (known) known.push(one);
    else byOwner.set(key, [one]);
  }
  return [...byOwner].flatMap(([key, ones]) => {
    const [shop, owner, visitor] = JSON.parse(key) as [string, string | null, string];
    const own = owner === null ? events.ofVisitor(shop, visitor) : events.of(shop, owner);
    const numbers = new Set(foldEvents(own).orders.map(({ number }) => number));
    return ones
      .filter(({ event }) => !numbers.has(event.number))
      .map((one) => ({ one, message: whyEmpty(one.event) }));
  });
}
