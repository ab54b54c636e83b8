import type { Fields } from '@carafe/core/formula';
import {
  foldEvents,
  mergePerson,
  mergeShopper,
  type Cart,
  type Order,
  type Shopper,
} from '@carafe/core/record';
import type { Store } from './db';

type Kept = { target: string; record: Fields };

/** Puts one person together from what sources hold and events came to, and keeps them. */
function keep(store: Store, shop: string, email: string, held: Kept[], folded: Shopper): number {
  const of = (target: string) => held.filter((h) => h.target === target).map((h) => h.record);
  const shopper = mergeShopper(folded, {
    cart: (of('carts').at(-1) as Cart | undefined) ?? null,
    orders: of('orders') as unknown as Order[],
  });
  const person = mergePerson({ email, rows: of('people'), shopper });
  return store.people.keep(shop, email, person, shopper);
}

/** Makes some people of a shop anew; who is in no source and no event any more goes. Gives their ids. */
export function refreshSome(store: Store, shop: string, emails: Iterable<string>): number[] {
  const ids: number[] = [];
  for (const email of emails) {
    const held = store.entries.of(shop, email);
    const events = store.events.of(shop, email);
    const own = held.filter(({ target }) => target !== 'feed');
    if (own.length === 0 && events.length === 0) {
      const id = store.people.idOf(shop, email);
      if (id !== null) store.people.drop(id);
    } else ids.push(keep(store, shop, email, own, foldEvents(events)));
  }
  return ids;
}

/** Makes all people of a shop anew: events are streamed, one person's at a time. */
export function refreshShop(store: Store, shop: string): void {
  const { db, entries, events, people } = store;
  db.transaction(() => {
    const owners = db
      .prepare<[string], { owner: string }>(
        `SELECT owner FROM entries JOIN sources ON sources.id = entries.source
         WHERE owner IS NOT NULL AND deleted_at IS NULL AND (sources.shop = ? OR sources.shop IS NULL)
         GROUP BY owner ORDER BY MIN(entries.id)`,
      )
      .all(shop);
    // Sources say who is first in the list: people keep the order in which they came.
    const waiting = new Set(owners.map((row) => row.owner));
    const gone = new Set(people.emails(shop));
    for (const email of waiting) {
      if (!gone.has(email)) keep(store, shop, email, entries.of(shop, email), foldEvents([]));
      gone.delete(email);
    }
    for (const { owner, events: own } of events.byOwner(shop)) {
      waiting.delete(owner);
      gone.delete(owner);
      keep(store, shop, owner, entries.of(shop, owner), foldEvents(own));
    }
    for (const email of waiting) keep(store, shop, email, entries.of(shop, email), foldEvents([]));
    for (const email of gone) {
      const id = people.idOf(shop, email);
      if (id !== null) people.drop(id);
    }
    people.rank(shop);
  })();
}
