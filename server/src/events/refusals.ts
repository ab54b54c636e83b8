import { foldEvents, type ShopEvent } from '@carafe/core/record';
import type { EventsRepository, Placed } from './repository';

const time = (iso: string) => iso.slice(0, 16).replace('T', ' ');

/** Why an order cannot be placed once more. */
export function placedBefore(number: string, { id, at }: Placed): string {
  return `Order “${number}” was placed already, at ${time(at)} UTC by the event “${id}”. A number is one order.`;
}

/**
 * Why an order comes to nothing, though its event can be read; null where it comes to an order. The
 * event is kept already, and whose it is has been found out.
 */
export function emptyOrder(
  events: Pick<EventsRepository, 'of' | 'ofVisitor' | 'ownerOf'>,
  event: ShopEvent & { kind: 'order_placed' },
): string | null {
  const { shop, id, number, visitor, lines, currency } = event;
  if (lines && currency) return null;
  const owner = event.email ?? events.ownerOf(shop, id);
  const own = owner !== null ? events.of(shop, owner) : events.ofVisitor(shop, visitor ?? '');
  if (foldEvents(own).orders.some((order) => order.number === number)) return null;
  return lines
    ? `Order “${number}” says no “currency”, and there is no cart to take it from.`
    : `Order “${number}” says no “lines”, and the cart is empty at ${time(event.at)} UTC. Send what was ordered as “lines”, or the events of the cart before it.`;
}
