import type { Having, Recipient, RecipientList } from '@carafe/contract';
import type { PersonData, ShopEvent, Shopper } from '@carafe/core/record';
import type { Fields } from '@carafe/core/formula';
import type { Db } from './open';

interface PersonRow {
  id: number;
  email: string;
  record: string;
  lines: number;
  orders: number;
  rank: number | null;
  shopper: string;
}

const FILTER: Record<Having, string> = {
  all: '1',
  cart: 'lines > 0',
  order: 'orders > 0',
};

function nameOf(record: Record<string, unknown>): string {
  return [record['first_name'], record['last_name']].filter((n) => typeof n === 'string').join(' ');
}

function data(row: PersonRow): PersonData {
  return {
    person: JSON.parse(row.record) as Fields,
    shopper: JSON.parse(row.shopper) as Shopper,
    ...(row.rank !== null && { rank: row.rank }),
  };
}

/** People with their events, and what the events come to. */
export function peopleTable(db: Db) {
  const insert = db.prepare('INSERT INTO people (shop, email, record) VALUES (?, ?, ?)');
  const insertEvent = db.prepare(
    'INSERT OR IGNORE INTO events (id, shop, email, at, event) VALUES (?, ?, ?, ?, ?)',
  );
  const ids = db.prepare<[string], { id: number; email: string }>(
    'SELECT id, email FROM people WHERE shop = ? ORDER BY id',
  );
  const events = db.prepare<[string], { email: string; event: string }>(
    'SELECT email, event FROM events WHERE shop = ? ORDER BY email, at, rowid',
  );
  const keep = db.prepare(
    'INSERT OR REPLACE INTO shoppers (person, lines, orders, rank, shopper) VALUES (?, ?, ?, ?, ?)',
  );
  const joined = 'people JOIN shoppers ON shoppers.person = people.id';
  const columns = 'people.id, email, record, lines, orders, rank, shopper';
  const every = db.prepare<[string], PersonRow>(
    `SELECT ${columns} FROM ${joined} WHERE shop = ? ORDER BY people.id`,
  );
  const some = db.prepare<[string, string], PersonRow>(
    `SELECT ${columns} FROM ${joined}
     WHERE shop = ? AND people.id IN (SELECT value FROM json_each(?)) ORDER BY people.id`,
  );
  const listing = Object.fromEntries(
    Object.entries(FILTER).map(([having, filter]) => {
      const where = `shop = @shop AND ${filter} AND (@q = '' OR instr(lower(email || ' ' || record), @q) > 0)`;
      return [
        having,
        {
          rows: db.prepare<object, PersonRow>(
            `SELECT ${columns} FROM ${joined} WHERE ${where} ORDER BY people.id LIMIT @limit OFFSET @offset`,
          ),
          count: db.prepare<object, { n: number }>(
            `SELECT COUNT(*) AS n FROM ${joined} WHERE ${where}`,
          ),
        },
      ];
    }),
  );
  return {
    insert: (shop: string, record: Record<string, unknown>): void =>
      void insert.run(shop, String(record['email']), JSON.stringify(record)),
    insertEvent: (event: ShopEvent): void =>
      void insertEvent.run(event.id, event.shop, event.email, event.at, JSON.stringify(event)),
    ids: (shop: string) => ids.all(shop),
    /** The events of a shop, person by person, each in the order of its time. */
    *events(shop: string): Generator<{ email: string; event: ShopEvent }> {
      for (const row of events.iterate(shop))
        yield { email: row.email, event: JSON.parse(row.event) as ShopEvent };
    },
    keep(person: number, shopper: Shopper, rank: number | undefined): void {
      const lines = shopper.cart?.lines.length ?? 0;
      keep.run(person, lines, shopper.orders.length, rank ?? null, JSON.stringify(shopper));
    },
    list(
      shop: string,
      having: Having,
      search: string,
      limit: number,
      offset: number,
    ): RecipientList {
      const found = listing[having];
      const given = { shop, q: search.trim().toLowerCase(), limit, offset };
      const recipients = (found?.rows.all(given) ?? []).map(
        ({ id, email, record, lines, orders }): Recipient => ({
          id,
          email,
          name: nameOf(JSON.parse(record) as Record<string, unknown>),
          lines,
          orders,
        }),
      );
      return { total: found?.count.get(given)?.n ?? 0, recipients };
    },
    data: (shop: string, wanted: number[]): { id: number; data: PersonData }[] =>
      some.all(shop, JSON.stringify(wanted)).map((row) => ({ id: row.id, data: data(row) })),
    *all(shop: string): Generator<PersonData> {
      for (const row of every.iterate(shop)) yield data(row);
    },
  };
}
export type PeopleTable = ReturnType<typeof peopleTable>;
