import type { Store } from '../database/store';
import type { StalePeopleRepository } from '../people/staleRepository';
import type { About, EventsRepository } from './repository';

/** Names by shop: of people, or of visitors. */
type ByShop = Map<string, Set<string>>;

function add(names: ByShop, shop: string, name: string | null): void {
  if (name === null) return;
  const known = names.get(shop);
  if (known) known.add(name);
  else names.set(shop, new Set([name]));
}

/**
 * Finds out anew whose the events of some visitors are, and marks everybody as stale whom that or the
 * events themselves touch. Gives the shops.
 */
export async function markTouched(
  store: Store,
  {
    events,
    stalePeople,
  }: { events: Pick<EventsRepository, 'settle'>; stalePeople: StalePeopleRepository },
  about: readonly About[],
): Promise<string[]> {
  const owners: ByShop = new Map();
  const visitors: ByShop = new Map();
  for (const { shop, owner, visitor } of about) {
    add(owners, shop, owner);
    add(visitors, shop, visitor);
  }
  for (const [shop, some] of visitors) {
    const left = [...some];
    await store.writeInSlices((size) => {
      for (const visitor of left.splice(0, size))
        for (const owner of events.settle(shop, visitor)) add(owners, shop, owner);
      return left.length > 0;
    });
  }
  for (const [shop, some] of owners) {
    // In order: rows of one page of an index after each other.
    const left = [...some].sort();
    await store.writeInSlices((size) => {
      stalePeople.add(shop, left.splice(0, size));
      return left.length > 0;
    });
  }
  return [...owners.keys()];
}
