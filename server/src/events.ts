import type { EventsTaken } from '@carafe/contract';
import { readEvent, type ShopEvent } from '@carafe/core/record';
import type { Services } from './app';
import { refreshSome } from './people';

const ORDERS = new Set<ShopEvent['kind']>(['order_placed', 'order_cancelled']);

/**
 * Takes events as a shop posts them: each once, in any order, those that can be read though others
 * cannot. Whom they are about is made anew, and told to whoever watches.
 */
export function takeEvents(services: Services, given: readonly unknown[]): EventsTaken {
  const { store, news, now } = services;
  const refused: EventsTaken['refused'] = [];
  const events: ShopEvent[] = [];
  const shops = new Set(store.shops.list().map(({ id }) => id));
  given.forEach((one, i) => {
    const read = readEvent(one);
    if (!read.ok) refused.push({ place: i + 1, message: read.message });
    else if (!shops.has(read.event.shop))
      refused.push({ place: i + 1, message: `There is no shop “${read.event.shop}”.` });
    else events.push(read.event);
  });
  let taken = 0;
  const touched = new Map<string, Set<string>>();
  const ids = new Map<string, number[]>();
  store.db.transaction(() => {
    const visitors = new Map<string, Set<string>>();
    for (const event of events) {
      if (!store.events.insert(event)) continue;
      taken++;
      const owners = touched.get(event.shop) ?? new Set();
      touched.set(event.shop, owners);
      if (event.email !== undefined) owners.add(event.email);
      if (event.visitor !== undefined)
        visitors.set(event.shop, (visitors.get(event.shop) ?? new Set()).add(event.visitor));
    }
    for (const [shop, some] of visitors)
      for (const visitor of some)
        for (const owner of store.events.settle(shop, visitor)) touched.get(shop)?.add(owner);
    for (const [shop, owners] of touched) {
      ids.set(shop, refreshSome(store, shop, owners));
      if (events.some((event) => event.shop === shop && ORDERS.has(event.kind)))
        store.people.rank(shop);
      for (const { id, shop: own } of store.sources.feeding('events', shop))
        if (own === shop) store.sources.touched(id, now().toISOString());
    }
  })();
  for (const [shop, some] of ids)
    if (some.length > 0) news.tell({ type: 'people', shop, ids: some });
  return { taken, known: events.length - taken, refused };
}
