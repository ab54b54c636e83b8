import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { ShopEvent } from '@carafe/core/record';
import { LocalLane } from '../database/lane';
import { openStore, type Store } from '../database/store';
import { openRepositories, type Repositories } from '../repositories';
import { TEST_SHOP } from '../testing';
import { foldingBeside, type Folding } from './foldBeside';
import { foldPerson } from './foldPerson';
import { refreshStale } from './refresh';

// Of many people a thread folds some. What comes of it is what one thread comes to, whoever writes meanwhile.

const migrations = join(__dirname, '..', '..', 'migrations');
const inThread = foldingBeside(pathToFileURL(join(__dirname, '..', 'jobs', 'folder.ts')));
const PEOPLE = 3_200;
const NOW = '2026-11-20T10:00:00.000Z';

let folder: string;
let store: Store;
let tables: Repositories;
let count = 0;

const addressOf = (i: number) => `p${i}@q.example`;
const added = (i: number, n: number): ShopEvent => ({
  ...{ id: `a${i}-${n}`, shop: 's', at: `2026-11-0${1 + n}T10:00:00.000Z`, email: addressOf(i) },
  ...{ kind: 'cart_added', currency: 'EUR', sku: `S-${i % 7}`, name: 'Poppy', price: 2.5 },
  quantity: 1 + n,
});
const stale = () => tables.stalePeople.areMany('s', 1);

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'carafe-fold-'));
  store = openStore(join(folder, `${++count}.db`), migrations, new LocalLane());
  tables = openRepositories(store.db);
  tables.shops.insert(TEST_SHOP);
  store.db.transaction(() => {
    for (let i = 0; i < PEOPLE; i++) {
      tables.events.insert(added(i, 0));
      if (i % 2 === 0) tables.events.insert(added(i, 1));
      tables.stalePeople.add('s', [addressOf(i)]);
    }
    // Somebody who was there, of whom nothing is left.
    tables.people.keep('s', 'gone@q.example', {}, { cart: null, orders: [] } as never);
    tables.stalePeople.add('s', ['gone@q.example']);
  })();
});
afterEach(() => {
  store.close();
  rmSync(folder, { recursive: true, force: true });
});

/** How many things are in the cart of each, by address. */
function quantities(): Map<string, number> {
  return new Map(
    [...tables.people.all('s')].map(({ person, shopper }) => [
      String(person.email),
      shopper.cart?.lines.reduce((sum, { quantity }) => sum + quantity, 0) ?? 0,
    ]),
  );
}
const quantityOf = (i: number) => (i % 2 === 0 ? 3 : 1);

test('a thread folds many people as they are folded here, and who is gone goes', async () => {
  const { count } = await refreshStale(store, { ...tables, folding: inThread }, 's', {
    ranks: 'always',
    now: NOW,
  });
  expect(count).toBe(PEOPLE + 1);
  const found = quantities();
  expect(found.size).toBe(PEOPLE);
  for (let i = 0; i < PEOPLE; i++) expect(found.get(addressOf(i))).toBe(quantityOf(i));
  expect(stale()).toBe(false);
});

/** A thread that answers truly at once; `then` is told after each answer, and the hand that it was asked by. */
const fake =
  (then: (emails: string[]) => void | Promise<void>): Folding =>
  () => ({
    async fold(shop, emails) {
      const rows = emails.map((email) => foldPerson(tables, shop, email));
      await then(emails);
      return rows;
    },
    close: () => Promise.resolve(),
  });

test('what a thread has read before somebody else wrote is not taken', async () => {
  const other = openStore(join(folder, `${count}.db`), migrations, new LocalLane());
  const others = openRepositories(other.db);
  const touched = new Set<string>();
  const folding = fake((emails) => {
    // Another connection keeps one more event of the first of them: the mark that they have stays.
    const [email = ''] = emails;
    const i = Number(/\d+/.exec(email)?.[0] ?? -1);
    if (i < 0) return;
    others.events.insert(added(i, 2));
    touched.add(email);
  });
  await refreshStale(store, { ...tables, folding }, 's', { ranks: 'where bought', now: NOW });
  other.close();
  expect(touched.size).toBeGreaterThan(5);
  const found = quantities();
  for (let i = 0; i < PEOPLE; i++)
    expect(found.get(addressOf(i))).toBe(quantityOf(i) + (touched.has(addressOf(i)) ? 3 : 0));
});

test('who is marked while others are folded is put together, too', async () => {
  let isMarked = false;
  const folding = fake(() => {
    if (isMarked) return;
    isMarked = true;
    tables.events.insert({ ...added(0, 0), id: 'late', email: 'late@q.example' });
    tables.stalePeople.add('s', ['late@q.example']);
  });
  const { count } = await refreshStale(store, { ...tables, folding }, 's', {
    ranks: 'where bought',
    now: NOW,
  });
  expect(count).toBe(PEOPLE + 2);
  expect(quantities().get('late@q.example')).toBe(1);
});

test('where the thread fails, that is said, and whoever was not put together still waits', async () => {
  let asked = 0;
  const folding = fake(() => {
    if (++asked > 2) throw new Error('The thread is gone.');
  });
  await expect(
    refreshStale(store, { ...tables, folding }, 's', { ranks: 'where bought', now: NOW }),
  ).rejects.toThrow('The thread is gone.');
  expect(stale()).toBe(true);
  await refreshStale(store, tables, 's', { ranks: 'where bought', now: NOW });
  expect(quantities().size).toBe(PEOPLE);
  expect(stale()).toBe(false);
});

test('few people are folded without a thread', async () => {
  await refreshStale(store, tables, 's', { ranks: 'where bought', now: NOW });
  tables.stalePeople.add('s', [addressOf(1), addressOf(2)]);
  const folding: Folding = () => {
    throw new Error('No thread is needed.');
  };
  const { ids, count } = await refreshStale(store, { ...tables, folding }, 's', {
    ranks: 'where bought',
    now: NOW,
  });
  expect(count).toBe(2);
  expect(ids).toHaveLength(2);
});
