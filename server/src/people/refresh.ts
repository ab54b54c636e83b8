import type { Fields } from '@carafe/core/formula';
import {
  foldEvents,
  mergePerson,
  mergeShopper,
  type Cart,
  type Order,
  type Shopper,
} from '@carafe/core/record';
import type { Store } from '../database/store';
import type { EventsRepository } from '../events/repository';
import type { EntriesRepository } from '../sources/entriesRepository';
import { rankPeople } from './rank';
import type { PeopleRepository } from './repository';
import type { StalePeopleRepository } from './staleRepository';

/** What putting people together reads and writes. */
export interface PeopleParts {
  people: PeopleRepository;
  stalePeople: StalePeopleRepository;
  entries: Pick<EntriesRepository, 'of'>;
  events: Pick<EventsRepository, 'of'>;
}

type Held = { target: string; record: Fields };

/** One person from what sources hold and events came to. */
function personOf(email: string, held: Held[], folded: Shopper) {
  const of = (target: string) => held.filter((h) => h.target === target).map((h) => h.record);
  const shopper = mergeShopper(folded, {
    cart: (of('carts').at(-1) as Cart | undefined) ?? null,
    orders: of('orders') as unknown as Order[],
  });
  return { person: mergePerson({ email, rows: of('people'), shopper }), shopper };
}

/** Puts one person together anew; who is in no source and no event any more goes. Gives their id. */
function refreshOne(
  { people, entries, events }: PeopleParts,
  shop: string,
  email: string,
): number | null {
  const held = entries.of(shop, email);
  const own = events.of(shop, email);
  if (held.length === 0 && own.length === 0) {
    const id = people.idOf(shop, email);
    if (id !== null) people.drop(id);
    return null;
  }
  const { person, shopper } = personOf(email, held, foldEvents(own));
  return people.keep(shop, email, person, shopper);
}

/** Ids of people who were put together anew are told one by one up to here. */
const MOST_TOLD = 500;

export interface Refreshed {
  /** Who is of whom something changed; empty where they are too many to tell. */
  ids: number[];
  count: number;
}

/**
 * Puts everybody of a shop together anew who waits for it, a few in each transaction: what is read is
 * what is written from. Ranks the shop's people where `ranks` is asked for.
 */
export async function refreshStale(
  store: Store,
  parts: PeopleParts,
  shop: string,
  ranks: boolean,
): Promise<Refreshed> {
  const ids: number[] = [];
  let count = 0;
  await store.writeInSlices((size) => {
    const some = parts.stalePeople.next(shop, size);
    for (const { id: mark, email } of some) {
      const id = refreshOne(parts, shop, email);
      parts.stalePeople.done(mark);
      count++;
      if (id !== null && count <= MOST_TOLD) ids.push(id);
    }
    return some.length === size;
  });
  if (ranks && count > 0) await rankPeople(store, parts.people, shop);
  return { ids: count <= MOST_TOLD ? ids : [], count };
}
