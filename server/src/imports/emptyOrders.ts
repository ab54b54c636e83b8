import type { ShopEvent } from '@carafe/core/record';
import type { Store } from '../database/store';
import { emptyOrder } from '../events/refusals';
import type { EventsRepository } from '../events/repository';
import type { ImportsRepository } from './repository';
import { openStaging } from './staging';

type Placed = ShopEvent & { kind: 'order_placed' };

/**
 * Takes back the orders of a file of events that come to nothing: they say no lines, and the cart is
 * empty. The import counts them among its rejected rows, and tells of the first. Whose the events
 * are is found out before. Gives how many there were.
 */
export async function rejectEmptyOrders(
  store: Store,
  {
    events,
    imports,
  }: { events: EventsRepository; imports: Pick<ImportsRepository, 'change' | 'find'> },
  { staging: file, import: id }: { staging: string; import: string },
): Promise<number> {
  const staging = openStaging(file);
  try {
    const found = staging.unsaidOrders().flatMap(({ line, event }) => {
      const placed = JSON.parse(event) as Placed;
      const message = emptyOrder(events, placed);
      return message === null ? [] : [{ line, placed, event, message }];
    });
    const [first] = found;
    if (!first) return 0;
    for (const { line, placed, event, message } of found)
      staging.rejectEvent(line, placed, event, message);
    const many = found.length === 1 ? 'An order was' : `${found.length} orders were`;
    const message = `${many} not taken, the first on line ${first.line}. ${first.message}`;
    await store.write(() => {
      for (const { placed } of found) events.drop(placed.shop, placed.id);
      const counts = imports.find(id)?.counts;
      if (counts) imports.change(id, { message, counts: { ...counts, ...staging.eventCounts() } });
    });
    return found.length;
  } finally {
    staging.close();
  }
}
