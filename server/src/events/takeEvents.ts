import type { EventsTaken } from '@carafe/contract';
import { readEvent, type ShopEvent } from '@carafe/core/record';
import type { Store } from '../database/store';
import type { PeopleParts } from '../people/refresh';
import { refreshStale } from '../people/refresh';
import type { ShopsRepository } from '../shops/repository';
import type { SourcesRepository } from '../sources/repository';
import type { EventsRepository } from './repository';
import { markTouched } from './touched';

export interface TakeEventsTask {
  events: unknown[];
  /** ISO 8601. */
  now: string;
}
export interface TakenEvents extends EventsTaken {
  /** The people who changed, by shop; no ids where they are many. */
  changed: { shop: string; ids: number[] }[];
}

export interface EventParts extends PeopleParts {
  events: EventsRepository;
  shops: Pick<ShopsRepository, 'list'>;
  sources: Pick<SourcesRepository, 'feeding' | 'touched'>;
}

const ORDERS = new Set<ShopEvent['kind']>(['order_placed', 'order_cancelled']);

function readAll(given: readonly unknown[], shops: ReadonlySet<string>) {
  const refused: EventsTaken['refused'] = [];
  const events: ShopEvent[] = [];
  given.forEach((one, i) => {
    const read = readEvent(one);
    if (!read.ok) refused.push({ place: i + 1, message: read.message });
    else if (!shops.has(read.event.shop))
      refused.push({ place: i + 1, message: `There is no shop “${read.event.shop}”.` });
    else events.push(read.event);
  });
  return { events, refused };
}

/**
 * Takes events as a shop posts them: each once, in any order, those that can be read though others
 * cannot. Whom they are about is put together anew.
 */
export async function takeEvents(
  store: Store,
  parts: EventParts,
  { events: given, now }: TakeEventsTask,
): Promise<TakenEvents> {
  const { events, refused } = readAll(given, new Set(parts.shops.list().map(({ id }) => id)));
  const fresh: ShopEvent[] = [];
  let at = 0;
  await store.writeInSlices((size) => {
    const counts = new Map<string, number>();
    for (const event of events.slice(at, at + size)) {
      if (!parts.events.insert(event)) continue;
      fresh.push(event);
      // Who is touched is marked with the event: a stop in between loses nobody.
      if (event.email !== undefined) parts.stalePeople.add(event.shop, [event.email]);
      counts.set(event.shop, (counts.get(event.shop) ?? 0) + 1);
    }
    for (const [shop, count] of counts)
      for (const { id, shop: own } of parts.sources.feeding('events', shop))
        if (own === shop) parts.sources.touched(id, count, now);
    at += size;
    return at < events.length;
  });
  const about = fresh.map(({ shop, email, visitor }) => ({
    shop,
    owner: email ?? null,
    visitor: visitor ?? null,
  }));
  const changed: TakenEvents['changed'] = [];
  for (const shop of await markTouched(store, parts, about)) {
    const ranks = fresh.some((event) => event.shop === shop && ORDERS.has(event.kind));
    const { ids, count } = await refreshStale(store, parts, shop, ranks);
    if (count > 0) changed.push({ shop, ids });
  }
  return { taken: fresh.length, known: events.length - fresh.length, refused, changed };
}
