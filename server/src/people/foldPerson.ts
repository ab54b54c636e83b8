import type { Fields } from '@carafe/core/formula';
import {
  foldEvents,
  mergePerson,
  mergeShopper,
  type Cart,
  type Order,
  type Shopper,
} from '@carafe/core/record';
import type { EventsRepository } from '../events/repository';
import type { EntriesRepository } from '../sources/entriesRepository';
import { personRow, type KeptPerson } from './personRow';

/** What people are put together from. */
export interface FoldParts {
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

/** Puts one person together anew; null where they are in no source and no event any more. */
export function foldPerson(
  { entries, events }: FoldParts,
  shop: string,
  email: string,
): KeptPerson | null {
  const held = entries.of(shop, email);
  const own = events.of(shop, email);
  if (held.length === 0 && own.length === 0) return null;
  const { person, shopper } = personOf(email, held, foldEvents(own));
  return personRow(email, person, shopper);
}
