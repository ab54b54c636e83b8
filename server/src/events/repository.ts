import { isDeepStrictEqual } from 'node:util';
import { ownerOf, type Known, type ShopEvent } from '@carafe/core/record';
import type { Db } from '../database/open';
import { walk } from '../database/walk';

interface EventRow {
  rowid: number;
  id: string;
  event: string;
}

/** Whom an event is about. */
export interface About {
  shop: string;
  owner: string | null;
  visitor: string | null;
}

/** The event that placed an order. */
export interface Placed {
  id: string;
  at: string;
}

/** The number of the order that an event is about. */
export const numberOf = (event: ShopEvent): string | null =>
  'number' in event ? event.number : null;

/** Somebody looked at a product, or put it into a cart. */
interface SeenEvent {
  owner: string;
  kind: 'viewed' | 'cart_added' | 'cart_removed';
  sku: string;
  at: string;
}

const asEvent = (text: string): ShopEvent => JSON.parse(text) as ShopEvent;

/** An event with the number of its row: of one instant, what was received first has the lower one. */
interface Numbered {
  event: ShopEvent;
  n: number;
}

const inOrder = (a: Numbered, b: Numbered): number =>
  a.event.at < b.event.at ? -1 : a.event.at > b.event.at ? 1 : a.n - b.n;

/** What happened in shops, each once, with whose it is as far as that is known. */
export function eventsRepository(db: Db) {
  const insert = db.prepare(
    `INSERT INTO events (shop, id, at, visitor, email, owner, number, event)
     VALUES (@shop, @id, @at, @visitor, @email, @owner, @number, @event) ON CONFLICT (shop, id) DO NOTHING`,
  );
  const known = db.prepare<[string, string], Known>(
    `SELECT visitor, email, at FROM events WHERE shop = ? AND visitor = ? AND email IS NOT NULL`,
  );
  const anonymous = db.prepare<[string, string], { id: string; at: string; owner: string | null }>(
    `SELECT id, at, owner FROM events WHERE shop = ? AND visitor = ? AND email IS NULL`,
  );
  const own = db.prepare('UPDATE events SET owner = ? WHERE shop = ? AND id = ?');
  const ofOwner = db
    .prepare<[string, string], string>(
      'SELECT event FROM events WHERE shop = ? AND owner = ? ORDER BY at, rowid',
    )
    .pluck();
  // Read from the index alone.
  const rowsOfOwner = db
    .prepare<[string, string], number>(
      'SELECT rowid FROM events WHERE shop = ? AND owner = ? ORDER BY at, rowid',
    )
    .pluck();
  const saidByOthers = db
    .prepare<[string, string, string], [text: string, n: number]>(
      `SELECT event, rowid FROM events WHERE shop = ? AND number IN (SELECT value FROM json_each(?)) AND owner IS NOT ?
       AND json_extract(event, '$.kind') <> 'order_placed'`,
    )
    .raw();
  const ofVisitor = db.prepare<[string, string], { event: string }>(
    'SELECT event FROM events WHERE shop = ? AND visitor = ? AND owner IS NULL ORDER BY at, rowid',
  );
  const ownOf = db
    .prepare<[string, string], string | null>('SELECT owner FROM events WHERE shop = ? AND id = ?')
    .pluck();
  const ofNumber = db.prepare<[string, string], Placed & { owner: string | null; kind: string }>(
    `SELECT id, at, owner, json_extract(event, '$.kind') AS kind FROM events
     WHERE shop = ? AND number = ? ORDER BY rowid`,
  );
  const stagedOrderOwners = () =>
    db
      .prepare<[], { shop: string; owner: string | null }>(
        `SELECT DISTINCT events.shop, events.owner FROM staging.orders AS staged
         CROSS JOIN events ON events.shop = staged.shop AND events.number = staged.number
         WHERE NOT staged.placed`,
      )
      .all()
      .map(({ shop, owner }): About => ({ shop, owner, visitor: null }));
  const fromCart = db
    .prepare<[string, string], number | null>(
      `SELECT (
         SELECT json_extract(before.event, '$.kind') = 'cart_added' AND
           coalesce(json_extract(placed.event, '$.currency') = json_extract(before.event, '$.currency'), 1)
         FROM events AS before
         WHERE before.shop = placed.shop AND before.owner = placed.owner
           AND (before.at, before.rowid) < (placed.at, placed.rowid)
           AND json_extract(before.event, '$.kind') IN ('cart_added', 'cart_changed', 'cart_removed', 'order_placed')
         ORDER BY before.at DESC, before.rowid DESC LIMIT 1)
       FROM events AS placed WHERE placed.shop = ? AND placed.id = ?`,
    )
    .pluck();
  const drop = db.prepare('DELETE FROM events WHERE shop = ? AND id = ?');
  const owners = db
    .prepare<[string], string>(
      'SELECT DISTINCT owner FROM events WHERE shop = ? AND owner IS NOT NULL ORDER BY owner',
    )
    .pluck();
  const latest = db.prepare<[string, number, number], EventRow>(
    `SELECT events.rowid, events.id, event
     FROM (SELECT rowid AS n FROM events WHERE shop = ? ORDER BY at DESC, rowid DESC LIMIT ? OFFSET ?)
     JOIN events ON events.rowid = n ORDER BY events.at DESC, n DESC`,
  );
  const some = db.prepare<[string], EventRow>(
    `SELECT events.rowid, events.id, event FROM json_each(?) AS wanted
     JOIN events ON events.rowid = wanted.value ORDER BY wanted.key`,
  );
  const asRow = ({ rowid, id, event }: EventRow) => ({
    id: rowid,
    key: id,
    record: JSON.parse(event) as Record<string, unknown>,
  });
  const insertStaged = (from: number, to: number, importId: string): number =>
    db
      .prepare(
        // What a statement may have to take back is copied page by page: here that is nothing.
        `INSERT OR IGNORE INTO events (shop, id, at, visitor, email, owner, number, event, import)
         SELECT shop, id, at, visitor, email, email, number, event, @importId FROM staging.events
         WHERE rowid > @from AND rowid <= @to`,
      )
      .run({ from, to, importId }).changes;
  const ofImport = db.prepare<[string], About & { rowid: number; number: string | null }>(
    'SELECT rowid, shop, owner, visitor, number FROM events WHERE import = ?',
  );
  const remove = db.prepare('DELETE FROM events WHERE rowid = ?');
  const ofShop = walk<[string], { id: number; record: string }>(
    db,
    'SELECT rowid AS id, event AS record FROM events WHERE shop = ? ORDER BY at DESC, rowid DESC',
  );
  const SEEN = `SELECT owner, json_extract(event, '$.kind') AS kind, json_extract(event, '$.sku') AS sku, at
     FROM events WHERE shop = ? AND owner IS NOT NULL AND json_extract(event, '$.kind') IN ('viewed', 'cart_added', 'cart_removed')`;
  const seen = walk<[string], SeenEvent>(db, SEEN);
  const seenBy = db.prepare<[string, string], SeenEvent>(`${SEEN} AND owner = ?`);
  const lookers = db.prepare<[string, string, string], { email: string; sku: string }>(
    `SELECT DISTINCT owner AS email, json_extract(event, '$.sku') AS sku FROM events
     WHERE shop = ? AND at >= ? AND owner IS NOT NULL AND json_extract(event, '$.kind') = 'viewed'
       AND json_extract(event, '$.sku') IN (SELECT value FROM json_each(?))`,
  );
  const isKnown = db.prepare<[string, string], object>(
    'SELECT 1 FROM events WHERE shop = ? AND id = ?',
  );
  const isAny = db.prepare<[], object>('SELECT 1 FROM events LIMIT 1');
  // Rows are numbered from 1: so many rows whose highest number is no more are all there are.
  const highest = db.prepare<[], number | null>('SELECT max(rowid) FROM events').pluck();
  const count = db.prepare<[string], { n: number }>(
    'SELECT COUNT(*) AS n FROM events WHERE shop = ?',
  );
  const byId = db
    .prepare<[string, string], string>('SELECT event FROM events WHERE shop = ? AND id = ?')
    .pluck();
  return {
    /** Keeps an event; false where its id is known already. */
    insert(event: ShopEvent): boolean {
      const { shop, id, at, visitor = null, email = null } = event;
      const row = { shop, id, at, visitor, email, owner: email };
      const number = numberOf(event);
      return insert.run({ ...row, number, event: JSON.stringify(event) }).changes === 1;
    },
    /** Whether an event of the same id says the same. */
    isSame(event: ShopEvent): boolean {
      const before = byId.get(event.shop, event.id);
      return (
        before !== undefined &&
        isDeepStrictEqual(JSON.parse(before), JSON.parse(JSON.stringify(event)))
      );
    },
    /** Who looked at one of some products since an instant (ISO 8601), and at which. */
    lookersOf: (shop: string, skus: readonly string[], since: string) =>
      lookers.all(shop, since, JSON.stringify(skus)),
    /** Takes back an event that was kept. */
    drop: (shop: string, id: string): void => void drop.run(shop, id),
    /** Who an event is of, as far as that is known. */
    ownerOf: (shop: string, id: string): string | null => ownOf.get(shop, id) ?? null,
    /** The event that placed an order of this number, if there is one. */
    placed: (shop: string, number: string): Placed | undefined =>
      ofNumber.all(shop, number).find(({ kind }) => kind === 'order_placed'),
    /** Whose the orders of this number are. */
    orderOwners: (shop: string, number: string): string[] =>
      ofNumber
        .all(shop, number)
        .flatMap(({ kind, owner }) => (kind === 'order_placed' && owner !== null ? [owner] : [])),
    /**
     * Whether something was put into the cart, in the currency of the order, right before it was placed:
     * then the cart is not empty. A quick yes; a no proves nothing.
     */
    followsCart: (shop: string, id: string): boolean => fromCart.get(shop, id) === 1,
    /** The events of a visitor whom nobody knows yet. */
    ofVisitor: (shop: string, visitor: string): ShopEvent[] =>
      ofVisitor.all(shop, visitor).map((row) => JSON.parse(row.event) as ShopEvent),
    /** Finds out anew whose a visitor's events are; gives every address that won or lost some. */
    settle(shop: string, visitor: string): Set<string> {
      const addresses = known.all(shop, visitor);
      const touched = new Set<string>();
      for (const { id, at, owner } of anonymous.all(shop, visitor)) {
        const now = ownerOf(at, addresses) ?? null;
        if (now === owner) continue;
        own.run(now, shop, id);
        for (const one of [now, owner]) if (one !== null) touched.add(one);
      }
      return touched;
    },
    /** The events of a person, with what others said of their orders, in the order in which they are folded. */
    of(shop: string, owner: string): ShopEvent[] {
      const own = ofOwner.all(shop, owner).map(asEvent);
      const numbers = new Set<string>();
      for (const event of own) if (event.kind === 'order_placed') numbers.add(event.number);
      const said =
        numbers.size > 0 ? saidByOthers.all(shop, JSON.stringify([...numbers]), owner) : [];
      if (said.length === 0) return own;
      const others = said.map(([text, n]): Numbered => ({ event: asEvent(text), n }));
      // Which came first matters where two are of one instant.
      const instants = new Set(own.map(({ at }) => at));
      const rows = others.some(({ event }) => instants.has(event.at))
        ? rowsOfOwner.all(shop, owner)
        : [];
      const all = own.map((event, i): Numbered => ({ event, n: rows[i] ?? 0 }));
      return [...all, ...others].sort(inOrder).map(({ event }) => event);
    },
    /** Everybody who has events in a shop. */
    owners: (shop: string): string[] => owners.all(shop),
    /** The latest events of a shop, as rows to look at. */
    rows: (shop: string, limit: number, offset: number) =>
      latest.all(shop, limit, offset).map(asRow),
    /** Rows by their ids, in the order of the ids given. */
    some: (ids: readonly number[]) => some.all(JSON.stringify(ids)).map(asRow),
    count: (shop: string): number => count.get(shop)?.n ?? 0,
    /** What people looked at and put into carts, one after the other. */
    seen: (shop: string) => seen(shop),
    /** The same of one person. */
    seenBy: (shop: string, owner: string) => seenBy.all(shop, owner),
    isKnown: (shop: string, id: string): boolean => isKnown.get(shop, id) !== undefined,
    isAny: (): boolean => isAny.get() !== undefined,
    /** Whether there are no events but so many that were just taken. */
    isOnly: (taken: number): boolean => (highest.get() ?? 0) === taken,
    /** All events of a shop, the latest first, one after the other. */
    latestFirst: (shop: string) => ofShop(shop),
    /** Writes a stretch of a staged file; gives how many were new. */
    insertStaged,
    /** What the events of a staged file name that is no shop. */
    stagedElsewhere: (): string[] =>
      db
        .prepare<[], string>(
          'SELECT DISTINCT shop FROM staging.about WHERE shop NOT IN (SELECT id FROM shops)',
        )
        .pluck()
        .all(),
    /** Whom a staged file is about. */
    stagedAbout: (): About[] => [
      ...db.prepare<[], About>('SELECT shop, owner, visitor FROM staging.about').all(),
      ...stagedOrderOwners(),
    ],
    /** The events that an import brought, with whose they are. */
    ofImport: (id: string) => ofImport.all(id),
    remove: (rowids: readonly number[]): void => {
      for (const rowid of rowids) remove.run(rowid);
    },
  };
}
export type EventsRepository = ReturnType<typeof eventsRepository>;
