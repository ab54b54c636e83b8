import type { Fields } from '@carafe/core/formula';
import {
  buyingAt,
  personThen,
  ranks,
  standing,
  type Counted,
  type PersonData,
} from '@carafe/core/record';
import type { PeopleChangesRepository } from '../people/changesRepository';
import type { PeopleRepository } from '../people/repository';

export interface PastPeopleParts {
  people: Pick<PeopleRepository, 'each'>;
  peopleChanges: Pick<PeopleChangesRepository, 'since'>;
}

const DAY = 86_400_000;
/** What everybody ordered is read anew after so many milliseconds. */
const KEPT_MS = 5 * 60_000;

/** Some people with their fields as they were known at instants since one, in milliseconds. */
export function peopleThen<T extends { id: number; data: PersonData }>(
  { peopleChanges }: Pick<PastPeopleParts, 'peopleChanges'>,
  some: readonly T[],
  from: number,
): (T & { fieldsThen: (at: number) => Fields })[] {
  const ids = some.map(({ id }) => id);
  const changes = peopleChanges.since(ids, new Date(from).toISOString());
  return some.map((one) => ({
    ...one,
    fieldsThen: personThen(one.data.person, changes.get(one.id) ?? []),
  }));
}

/** What was known of somebody at an instant, in milliseconds. */
export function fieldsAt(
  { peopleChanges }: Pick<PastPeopleParts, 'peopleChanges'>,
  { id, data }: { id: number; data: PersonData },
  at: number,
): Fields {
  const changes = peopleChanges.since([id], new Date(at).toISOString());
  return personThen(data.person, changes.get(id) ?? [])(at);
}

interface Bought {
  readAt: number;
  /** Where somebody stands among all. */
  places: Map<number, number>;
  orders: Counted[][];
  /** By instant, of each of the people; 0 for none. */
  ranked: Map<number, Int8Array>;
}
const kept = new WeakMap<object, Map<string, Bought>>();

/** What everybody of a shop bought, kept by each thread for a while. */
function boughtIn({ people }: Pick<PastPeopleParts, 'people'>, shop: string): Bought {
  const shops = kept.get(people) ?? new Map<string, Bought>();
  kept.set(people, shops);
  const known = shops.get(shop);
  if (known && performance.now() - known.readAt < KEPT_MS) return known;
  const read: Bought = { readAt: 0, places: new Map(), orders: [], ranked: new Map() };
  for (const { id, data } of people.each(shop)) {
    read.places.set(id, read.orders.length);
    read.orders.push(
      standing(data.shopper.orders).map(({ placed_at, currency, total }) => ({
        ...{ placed_at, currency, total },
      })),
    );
  }
  read.readAt = performance.now();
  shops.clear();
  shops.set(shop, read);
  return read;
}

/** The rank of somebody of a shop as it was at an instant, in milliseconds, by the orders that stand today. */
export function rankAt(
  parts: Pick<PastPeopleParts, 'people'>,
  shop: string,
): (id: number, at: number) => number | undefined {
  const { places, orders, ranked } = boughtIn(parts, shop);
  return (id, at) => {
    const place = places.get(id);
    if (place === undefined) return undefined;
    let then = ranked.get(at);
    if (!then) {
      then = Int8Array.from(ranks(orders.map((own) => buyingAt(own, at))), (rank) => rank ?? 0);
      ranked.set(at, then);
    }
    return then[place] || undefined;
  };
}

/** The same for many instants: as it was when the day began, by UTC. */
export function rankOfDay(
  parts: Pick<PastPeopleParts, 'people'>,
  shop: string,
): (id: number, at: number) => number | undefined {
  const then = rankAt(parts, shop);
  return (id, at) => then(id, Math.floor(at / DAY) * DAY);
}
