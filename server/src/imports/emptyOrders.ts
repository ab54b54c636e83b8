import type { Store } from '../database/store';
import type { PlacedEvent } from '../events/refusals';
import type { EventsRepository } from '../events/repository';
import { takeBackEmpty } from '../events/takeBack';
import type { StalePeopleRepository } from '../people/staleRepository';
import type { ImportsRepository } from './repository';
import { openStaging } from './staging';

interface Parts {
  events: EventsRepository;
  stalePeople: StalePeopleRepository;
  imports: Pick<ImportsRepository, 'change' | 'find'>;
}

/**
 * Takes back the orders of a file of events that come to nothing: they say no lines, and the cart is
 * empty. The import counts them among its rejected rows, and tells of the first. Whose the events
 * are is found out before; `taken` of them were new. Gives how many there were, and the shops that are touched.
 */
export async function rejectEmptyOrders(
  store: Store,
  { imports, ...parts }: Parts,
  { staging: file, import: id }: { staging: string; import: string },
  taken: number,
): Promise<{ count: number; shops: string[] }> {
  const staging = openStaging(file);
  try {
    const placed = staging
      .unsaidOrders(parts.events.isOnly(taken))
      .map(({ line, event: text }) => ({ line, text, event: JSON.parse(text) as PlacedEvent }));
    const { found, shops } = await takeBackEmpty(store, parts, placed);
    const count = found.length;
    const [first] = found.sort((a, b) => a.one.line - b.one.line);
    if (!first) return { count, shops };
    staging.rejectEvents(found.map(({ one, message }) => ({ ...one, message })));
    const many = count === 1 ? 'An order was' : `${count} orders were`;
    const message = `${many} not imported, the first on line ${first.one.line}. ${first.message}`;
    await store.write(() => {
      const counts = imports.find(id)?.counts;
      if (counts) imports.change(id, { message, counts: { ...counts, ...staging.eventCounts() } });
    });
    return { count, shops };
  } finally {
    staging.close();
  }
}
