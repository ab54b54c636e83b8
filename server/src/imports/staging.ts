import { rmSync } from 'node:fs';
import type { ImportOutcome } from '@carafe/contract';
import type { ShopEvent } from '@carafe/core/record';
import Database from 'better-sqlite3';
import type { StagedEvent } from './eventLines';

/** Orders that leave it to the cart what was ordered. */
const UNSAID = `(json_extract(event, '$.lines') IS NULL OR json_extract(event, '$.currency') IS NULL)`;
/** What a file says of orders, apart: whoever asks for it need not read everything else. */
const ORDERS = `
  CREATE TABLE orders (event INTEGER PRIMARY KEY, shop TEXT NOT NULL, number TEXT NOT NULL, placed INTEGER NOT NULL, unsaid INTEGER NOT NULL, email TEXT, follows INTEGER NOT NULL) STRICT;
`;

/** Whom events of a file are about, each once. */
const ABOUT = `
  CREATE TABLE about (shop TEXT NOT NULL, owner TEXT, visitor TEXT) STRICT;
`;

/** Of a file that was staged before it was said apart whom it is about. */
function keepAboutApart(db: Database.Database): void {
  const is = db.prepare("SELECT 1 FROM sqlite_master WHERE name = 'about'").get();
  if (is) return;
  db.exec(`${ABOUT} INSERT INTO about SELECT DISTINCT shop, email, visitor FROM events`);
}

/** Of a file that was staged before what it says of orders was kept apart. */
function keepOrdersApart(db: Database.Database): void {
  const is = db.prepare("SELECT 1 FROM sqlite_master WHERE name = 'orders'").get();
  if (is) return;
  db.exec(`${ORDERS}
    INSERT INTO orders
    SELECT rowid, shop, number, json_extract(event, '$.kind') = 'order_placed', ${UNSAID}, email, 0
    FROM events WHERE number IS NOT NULL`);
}

/**
 * A file of its own for what an import read: nothing of it is in the way of the real tables until
 * all of it was read and somebody said yes.
 */
export function openStaging(file: string, { fresh = false } = {}) {
  if (fresh) rmSync(file, { force: true });
  const db = new Database(file);
  db.pragma('journal_mode = OFF');
  db.pragma('synchronous = OFF');
  if (fresh)
    db.exec(`
      CREATE TABLE staged (n INTEGER PRIMARY KEY, line INTEGER, key TEXT NOT NULL, owner TEXT, record TEXT NOT NULL, outcome TEXT NOT NULL) STRICT;
      CREATE TABLE events (line INTEGER, shop TEXT NOT NULL, id TEXT NOT NULL, at TEXT NOT NULL, visitor TEXT, email TEXT, number TEXT, event TEXT NOT NULL) STRICT;
      CREATE TABLE rejected (n INTEGER PRIMARY KEY, line INTEGER, key TEXT, cells TEXT NOT NULL, problems TEXT NOT NULL) STRICT;
      CREATE TABLE columns (names TEXT NOT NULL, meta TEXT NOT NULL) STRICT;
      ${ORDERS} ${ABOUT}
    `);
  else {
    keepOrdersApart(db);
    keepAboutApart(db);
  }
  const stage = db.prepare(
    'INSERT INTO staged (line, key, owner, record, outcome) VALUES (?, ?, ?, ?, ?)',
  );
  const stageEvent = db.prepare(
    'INSERT INTO events (line, shop, id, at, visitor, email, number, event) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  );
  const reject = db.prepare(
    'INSERT INTO rejected (line, key, cells, problems) VALUES (?, ?, ?, ?)',
  );
  const name = db.prepare('INSERT INTO columns (names, meta) VALUES (?, ?)');
  const stageOrder = db.prepare(
    'INSERT INTO orders (event, shop, number, placed, unsaid, email, follows) VALUES (?, ?, ?, ?, ?, ?, ?)',
  );
  const keepAbout = db.prepare(
    'INSERT INTO about (shop, owner, visitor) SELECT @shop, value, NULL FROM json_each(@owners) UNION ALL SELECT @shop, NULL, value FROM json_each(@visitors)',
  );
  const unsaidOrders = db.prepare<[number], { line: number; event: string }>(
    `SELECT line, events.event FROM orders JOIN events ON events.rowid = orders.event
     WHERE placed AND unsaid AND NOT (follows AND ?) ORDER BY line`,
  );
  const doubt = db.prepare(
    `UPDATE orders SET follows = 0
     WHERE follows AND shop || ' ' || email IN (SELECT value FROM json_each(?))`,
  );
  const doubtAll = db.prepare('UPDATE orders SET follows = 0');
  const eventCounts = db.prepare<[], { new: number; rejected: number }>(
    'SELECT (SELECT COUNT(*) FROM events) AS new, (SELECT COUNT(*) FROM rejected) AS rejected',
  );
  const dropEvent = db.prepare('DELETE FROM events WHERE shop = ? AND id = ?');
  const page = db.prepare<object, { line: number; key: string; record: string }>(
    `SELECT line, key, record FROM staged WHERE outcome = @outcome
     UNION ALL SELECT line, id, event FROM events WHERE @outcome = 'new' LIMIT @limit OFFSET @offset`,
  );
  const refusals = db.prepare<
    [number, number],
    { line: number; key: string | null; cells: string; problems: string }
  >('SELECT line, key, cells, problems FROM rejected ORDER BY n LIMIT ? OFFSET ?');
  const refusedKeys = db
    .prepare<[], string>(
      `SELECT DISTINCT key FROM rejected WHERE key IS NOT NULL AND key NOT IN (SELECT key FROM staged)`,
    )
    .pluck();
  const inFile = db.prepare<object, object>(
    `SELECT 1 FROM staged WHERE key = @key UNION ALL SELECT 1 FROM rejected WHERE key = @key LIMIT 1`,
  );
  const metas = db.prepare<[], { meta: string }>('SELECT meta FROM columns');
  const names = db.prepare<[], { names: string }>('SELECT names FROM columns');
  return {
    begin: () => void db.exec('BEGIN'),
    /** All was read: what is staged can be found by its key. */
    finish: () =>
      void db.exec(
        'COMMIT; CREATE INDEX staged_key ON staged (key); CREATE INDEX rejected_key ON rejected (key)',
      ),
    stage: (
      line: number,
      key: string,
      owner: string | null,
      record: string,
      outcome: ImportOutcome,
    ): void => void stage.run(line, key, owner, record, outcome),
    /** `follows`: an order that surely follows what was put into the cart, as far as the file says. */
    stageEvent(one: StagedEvent, follows: boolean): void {
      const { line, shop, id, at, visitor = null, email = null, number, kind, text } = one;
      const { lastInsertRowid } = stageEvent.run(line, shop, id, at, visitor, email, number, text);
      if (number === null) return;
      const flags = [Number(kind === 'order_placed'), Number(one.unsaid), email, Number(follows)];
      stageOrder.run(lastInsertRowid, shop, number, ...flags);
    },
    /** Whom the events of a shop are about, by address and by what browsers are known by. */
    about: (shop: string, owners: Iterable<string>, visitors: Iterable<string>): void =>
      void keepAbout.run({
        shop,
        owners: JSON.stringify([...owners]),
        visitors: JSON.stringify([...visitors]),
      }),
    /** Of whose orders it is not sure any more what they follow: shop and address, a blank between. */
    doubt(owners: 'all' | readonly string[]): void {
      if (owners === 'all') doubtAll.run();
      else if (owners.length > 0) doubt.run(JSON.stringify(owners));
    },
    reject: (
      line: number,
      key: string | null,
      cells: readonly unknown[],
      problems: readonly object[],
    ): void => void reject.run(line, key, JSON.stringify(cells), JSON.stringify(problems)),
    /**
     * Orders that leave it to the cart what was ordered. Where there are no events but the file's, without
     * those that surely follow what was put into it.
     */
    unsaidOrders: (isAlone: boolean) => unsaidOrders.all(Number(isAlone)),
    /** Puts events that were staged among the rejected rows. */
    rejectEvents: db.transaction(
      (all: readonly { line: number; event: ShopEvent; text: string; message: string }[]) => {
        for (const { line, event, text, message } of all) {
          dropEvent.run(event.shop, event.id);
          const problems = JSON.stringify([{ column: 'event', message }]);
          reject.run(line, null, JSON.stringify([text.slice(0, 500)]), problems);
        }
      },
    ),
    eventCounts: () => eventCounts.get() ?? { new: 0, rejected: 0 },
    /** The columns of the file, and what it says of itself. */
    setColumns: (columns: readonly string[], meta: object = {}): void =>
      void name.run(JSON.stringify(columns), JSON.stringify(meta)),
    meta: (): Record<string, unknown> =>
      JSON.parse(metas.get()?.meta ?? '{}') as Record<string, unknown>,
    columns: (): string[] => JSON.parse(names.get()?.names ?? '[]') as string[],
    page: (outcome: ImportOutcome, limit: number, offset: number) =>
      page.all({ outcome, limit, offset }),
    /** Keys of rows that stand in the file and cannot be taken: what is there of them stays. */
    refusedKeys: (): string[] => refusedKeys.all(),
    /** Whether the file has a row of this key, taken or not. */
    has: (key: string): boolean => inFile.get({ key }) !== undefined,
    /** How many rows meet one fate. */
    count: (outcome: ImportOutcome): number =>
      db
        .prepare<[string], number>('SELECT COUNT(*) FROM staged WHERE outcome = ?')
        .pluck()
        .get(outcome) ?? 0,
    rejected: (limit: number, offset: number) => refusals.all(limit, offset),
    close: () => void db.close(),
  };
}
export type Staging = ReturnType<typeof openStaging>;
