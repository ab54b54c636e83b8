import type { Store } from '../database/store';
import type { StalePeopleRepository } from '../people/staleRepository';
import { emptyOrders, type PlacedEvent } from './refusals';
import type { EventsRepository } from './repository';
import { markTouched } from './touched';

export interface TakenBack<T> {
  /** What was taken back, each with the reason. */
  found: { one: T; message: string }[];
  /** Shops in which somebody is touched by that. */
  shops: string[];
}

/**
 * Takes back orders that leave it to the cart what was ordered, and come to nothing. What such an order said of
 * a visitor is no longer so: whose that visitor's events are is found out again, and with it what is in the
 * carts, until no order is left that comes to nothing. `also` is done with each in the same transaction.
 */
export async function takeBackEmpty<T extends { event: PlacedEvent }>(
  store: Store,
  { events, stalePeople }: { events: EventsRepository; stalePeople: StalePeopleRepository },
  placed: readonly T[],
  also: (one: T) => void = () => undefined,
): Promise<TakenBack<T>> {
  const all: TakenBack<T>['found'] = [];
  const shops = new Set<string>();
  for (let left = placed; ;) {
    const found = emptyOrders(events, left);
    if (found.length === 0) return { found: all, shops: [...shops] };
    const waiting = found.map(({ one }) => one);
    const gone = new Set(waiting);
    await store.writeInSlices((size) => {
      for (const one of waiting.splice(0, size)) {
        events.drop(one.event.shop, one.event.id);
        also(one);
      }
      return waiting.length > 0;
    });
    const about = [...gone].map(({ event: { shop, email, visitor } }) => ({
      ...{ shop, owner: email ?? null, visitor: visitor ?? null },
    }));
    for (const shop of await markTouched(store, { events, stalePeople }, about)) shops.add(shop);
    all.push(...found);
    left = left.filter((one) => !gone.has(one));
  }
}
