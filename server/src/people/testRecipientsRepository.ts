import type { Recipient } from '@carafe/contract';
import { NEW_SHOPPER, type PersonData } from '@carafe/core/record';
import type { Db } from '../database/open';
import type { Wanted } from './listing';

interface Row {
  id: number;
  name: string;
  document: string;
}

/** What is kept of a test recipient. */
export interface TestRecipient {
  /** Below 0: no person has such an id. */
  id: number;
  name: string;
  data: PersonData;
}

/** What was written before a shopper had all its fields is completed. */
function read({ id, name, document }: Row): TestRecipient {
  const data = JSON.parse(document) as PersonData;
  return { id: -id, name, data: { ...data, shopper: { ...NEW_SHOPPER, ...data.shopper } } };
}

function recipientOf({ id, name, data }: TestRecipient): Recipient {
  const email = (data.person as { email?: unknown }).email;
  return {
    ...{ id, name, email: typeof email === 'string' ? email : '' },
    lines: data.shopper.cart?.lines.length ?? 0,
    orders: data.shopper.orders.length,
    made_up: true,
  };
}

/** The test_recipients table. */
export function testRecipientsRepository(db: Db) {
  const all = db.prepare<[string], Row>(
    'SELECT id, name, document FROM test_recipients WHERE shop = ? ORDER BY id',
  );
  const one = db.prepare<[string, number], Row>(
    'SELECT id, name, document FROM test_recipients WHERE shop = ? AND id = ?',
  );
  const insert = db
    .prepare<[string, string, string, string], number>(
      'INSERT INTO test_recipients (shop, name, document, made_at) VALUES (?, ?, ?, ?) RETURNING id',
    )
    .pluck();
  const update = db.prepare(
    'UPDATE test_recipients SET name = ?, document = ? WHERE shop = ? AND id = ?',
  );
  const remove = db.prepare('DELETE FROM test_recipients WHERE shop = ? AND id = ?');
  const find = (shop: string, id: number): TestRecipient | null => {
    const row = one.get(shop, -id);
    return row ? read(row) : null;
  };
  return {
    all: (shop: string): TestRecipient[] => all.all(shop).map(read),
    find,
    insert(shop: string, name: string, data: PersonData, now: string): number {
      const id = insert.get(shop, name, JSON.stringify(data), now);
      if (id === undefined) throw new Error('SQLite gave no id for a test recipient.');
      return -id;
    },
    update: (shop: string, { id, name, data }: TestRecipient): void =>
      void update.run(name, JSON.stringify(data), shop, -id),
    remove: (shop: string, id: number): void => void remove.run(shop, -id),
    data: (shop: string, ids: readonly number[]): { id: number; data: PersonData }[] =>
      ids.flatMap((id) => {
        const found = id < 0 ? find(shop, id) : null;
        return found ? [{ id, data: { ...found.data, token: 'made-up' } }] : [];
      }),
    some: (shop: string, ids: readonly number[]): Recipient[] =>
      ids.flatMap((id) => {
        const found = id < 0 ? find(shop, id) : null;
        return found ? [recipientOf(found)] : [];
      }),
    /** Those that fit; a filter over fields of people lists none. */
    list(shop: string, { having, search, filter }: Wanted): Recipient[] {
      const asks = Object.values(filter).some((value) => value !== undefined && value !== null);
      if (asks) return [];
      const words = search.trim().toLowerCase();
      return all
        .all(shop)
        .map(read)
        .filter(({ name, data }) =>
          `${name} ${JSON.stringify(data.person)}`.toLowerCase().includes(words),
        )
        .map(recipientOf)
        .filter(
          ({ lines, orders }) => having === 'all' || (having === 'cart' ? lines : orders) > 0,
        );
    },
  };
}
export type TestRecipientsRepository = ReturnType<typeof testRecipientsRepository>;
