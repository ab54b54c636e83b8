import { readJsonFeed, readNdjson, readTable, type CellKind } from '@carafe/core/formats';
import { foldEvents, ranks, ShopEvent } from '@carafe/core/record';
import type { Store } from './db';

/** The columns whose kind the target says; others are read as what their cells can be. */
const PRODUCT_KINDS: Record<string, CellKind> = {
  sku: 'text',
  name: 'text',
  description: 'text',
  price: 'number',
  was_price: 'number',
  categories: 'list',
  tags: 'list',
  stock: 'number',
  added_at: 'date',
};
const PERSON_KINDS: Record<string, CellKind> = {
  email: 'text',
  first_name: 'text',
  last_name: 'text',
  consent: 'boolean',
  guest: 'boolean',
  joined: 'date',
  tags: 'list',
};

/** Something in a file that could not be read; nothing of the file was taken. */
export class IntakeError extends Error {
  override name = 'IntakeError';
}

function rowsOf(csv: string, kinds: Record<string, CellKind>, key: string, what: string) {
  const { rows, problems } = readTable(csv, kinds);
  const [first] = problems;
  if (first)
    throw new IntakeError(`${what}, row ${first.row}, column “${first.column}”: ${first.message}`);
  rows.forEach((row, i) => {
    if (typeof row[key] !== 'string')
      throw new IntakeError(`${what}, row ${i + 2}: “${key}” is empty.`);
  });
  return rows;
}

/** Reads a catalog from CSV. All or nothing. */
export function takeCatalog(store: Store, shop: string, catalog: string, csv: string): void {
  const rows = rowsOf(csv, PRODUCT_KINDS, 'sku', `Catalog “${catalog}”`);
  store.db.transaction(() => {
    for (const row of rows) {
      const { stock } = row;
      const inStock = row['in_stock'] ?? (typeof stock === 'number' ? stock > 0 : undefined);
      store.shops.insertProduct(shop, catalog, { ...row, in_stock: inStock });
    }
  })();
}

/** Reads people from CSV; the column `shop` says whose they are. All or nothing. */
export function takePeople(store: Store, csv: string): void {
  const rows = rowsOf(csv, PERSON_KINDS, 'email', 'People');
  store.db.transaction(() => {
    for (const { shop, ...record } of rows) store.people.insert(String(shop), record);
  })();
}

export function takeCoupons(store: Store, shop: string, csv: string): void {
  const rows = rowsOf(csv, { code: 'text', policy: 'text', percent: 'number' }, 'code', 'Coupons');
  store.db.transaction(() => {
    for (const row of rows) {
      const percent = typeof row['percent'] === 'number' ? row['percent'] : null;
      store.shops.insertCoupon(shop, {
        policy: String(row['policy']),
        code: String(row['code']),
        percent,
      });
    }
  })();
}

export function takeFeed(store: Store, name: string, json: string): void {
  store.shops.insertFeed(name, readJsonFeed(JSON.parse(json)));
}

/** Reads events from NDJSON. All or nothing; an id that is known changes nothing. */
export function takeEvents(store: Store, ndjson: string): void {
  const events = readNdjson(ndjson).map((line) => {
    if (!line.ok) throw new IntakeError(line.message);
    const parsed = ShopEvent.safeParse(line.value);
    if (parsed.success) return parsed.data;
    const [issue] = parsed.error.issues;
    throw new IntakeError(
      `Line ${line.line}, ${issue?.path.join('.') ?? ''}: ${issue?.message ?? ''}`,
    );
  });
  store.db.transaction(() => {
    for (const event of events) store.people.insertEvent(event);
  })();
}

/** Works out anew what the events of a shop's people come to. */
export function foldShop(store: Store, shop: string): void {
  const byEmail = new Map<string, ShopEvent[]>();
  for (const { email, event } of store.people.events(shop)) {
    const known = byEmail.get(email);
    if (known) known.push(event);
    else byEmail.set(email, [event]);
  }
  const people = store.people.ids(shop);
  const shoppers = people.map(({ email }) => foldEvents(byEmail.get(email) ?? []));
  const ranked = ranks(shoppers);
  store.db.transaction(() => {
    people.forEach(({ id }, i) => {
      const shopper = shoppers[i];
      if (shopper) store.people.keep(id, shopper, ranked[i]);
    });
  })();
}
