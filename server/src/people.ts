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
    if (held.length === 0 && events.length === 0) {
      const id = store.people.idOf(shop, email);
      if (id !== null) store.people.drop(id);
    } else ids.push(keep(store, shop, email, held, foldEvents(events)));
  }
  return ids;
}

/** Makes all people of a shop anew: one at a time, so that their events are never all in memory. */
export function refreshShop(store: Store, shop: string): void {
  const { db, entries, events, people } = store;
  db.transaction(() => {
    // Those of sources first, in the order of their files: that is how people are listed.
    const held = db
      .prepare<[string], string>(
        `SELECT owner FROM entries JOIN sources ON sources.id = entries.source
         WHERE owner IS NOT NULL AND deleted_at IS NULL AND (sources.shop = ? OR sources.shop IS NULL)
         GROUP BY owner ORDER BY MIN(entries.id)`,
      )
      .pluck()
      .all(shop);
    const now = new Set([...held, ...events.owners(shop)]);
    for (const email of now)
      keep(store, shop, email, entries.of(shop, email), foldEvents(events.of(shop, email)));
    for (const email of people.emails(shop)) {
      const id = now.has(email) ? null : people.idOf(shop, email);
      if (id !== null) people.drop(id);
    }
    people.rank(shop);
  })();
}
