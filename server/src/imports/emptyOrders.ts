import type { Store } from '../database/store';
import { emptyOrders, type PlacedEvent } from '../events/refusals';
import type { EventsRepository } from '../events/repository';
import type { ImportsRepository } from './repository';
import { openStaging } from './staging';

/**
 * Takes back the orders of a file of events that come to nothing: they say no lines, and the cart is
 * empty. The import counts them among its rejected rows, and tells of the first. Whose the events
 * are is found out before; `taken` of them were new. Gives how many there were.
 */
export async function rejectEmptyOrders(
  store: Store,
  {
    events,
    imports,
  }: { events: EventsRepository; imports: Pick<ImportsRepository, 'change' | 'find'> },
  { staging: file, import: id }: { staging: string; import: string },
  taken: number,
): Promise<number> {
  const staging = openStaging(file);
  try {
    const placed = staging
      .unsaidOrders(events.isOnly(taken))
      .map(({ line, event: text }) => ({ line, text, event: JSON.parse(text) as PlacedEvent }));
    const found = emptyOrders(events, placed).sort((a, b) => a.one.line - b.one.line);
    const [first] = found;
    if (!first) return 0;
    staging.rejectEvents(found.map(({ one, message }) => ({ ...one, message })));
    const many = found.length === 1 ? 'An order was' : `${found.length} orders were`;
    const message = `${many} not taken, the first on line ${first.one.line}. ${first.message}`;
    let at = 0;
    await store.writeInSlices((size) => {
      for (const { one } of found.slice(at, at + size)) events.drop(one.event.shop, one.event.id);
      at += size;
      return at < found.length;
    });
    await store.write(() => {
      const counts = imports.find(id)?.counts;
      if (counts) imports.change(id, { message, counts: { ...counts, ...staging.eventCounts() } });
    });
    return found.length;
  } finally {
    staging.close();
  }
}
