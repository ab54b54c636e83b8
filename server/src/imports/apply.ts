import type { Store } from '../db';
import { refreshShop, refreshSome } from '../people';
import { metaOf } from './rows';
import type { ApplyTask, UndoTask } from './task';

/** Up to so many people are made anew one by one; past that, the whole shop at once. */
const FEW = 2000;

const aboutPeople = new Set(['people', 'carts', 'orders', 'events']);

/** The shops that a source serves. */
function shopsOf(store: Store, shop: string | null): string[] {
  return shop === null ? store.shops.list().map(({ id }) => id) : [shop];
}

function refresh(store: Store, shop: string | null, owners: string[]): void {
  for (const id of shopsOf(store, shop)) {
    if (owners.length > FEW) refreshShop(store, id);
    else {
      refreshSome(store, id, owners);
      store.people.rank(id);
    }
  }
}

function applyRows(store: Store, { import: id, source, mode }: ApplyTask): string[] {
  const { db } = store;
  const wasEmpty = store.entries.count(source) === 0;
  db.prepare('UPDATE imports SET was_empty = ? WHERE id = ?').run(Number(wasEmpty), id);
  if (wasEmpty) {
    db.prepare(
      `INSERT INTO entries (source, key, owner, record)
       SELECT ?, key, owner, record FROM staging.staged ORDER BY n`,
    ).run(source);
  } else {
    db.prepare(
      `INSERT INTO replaced (import, key, id, owner, record)
       SELECT ?, s.key, e.id, coalesce(e.owner, s.owner), e.record FROM staging.staged AS s
       LEFT JOIN entries AS e ON e.source = ? AND e.key = s.key WHERE s.outcome <> 'unchanged'`,
    ).run(id, source);
    if (mode === 'whole') {
      // A row that stands in the file and cannot be read is not gone: what was there of it stays.
      const gone = `source = ? AND key NOT IN (SELECT key FROM staging.staged
        UNION SELECT key FROM staging.rejected WHERE key IS NOT NULL)`;
      db.prepare(
        `INSERT INTO replaced (import, key, id, owner, record)
         SELECT ?, key, id, owner, record FROM entries WHERE ${gone}`,
      ).run(id, source);
      db.prepare(`DELETE FROM entries WHERE ${gone}`).run(source);
    }
    db.prepare(
      `INSERT INTO entries (source, key, owner, record)
       SELECT ?, key, owner, record FROM staging.staged WHERE outcome <> 'unchanged' ORDER BY n
       ON CONFLICT (source, key) DO UPDATE SET owner = excluded.owner, record = excluded.record`,
    ).run(source);
  }
  // In the order of the file: people are listed in the order in which they came.
  const staged = db
    .prepare<[], string>(
      `SELECT owner FROM staging.staged WHERE owner IS NOT NULL AND outcome <> 'unchanged' ORDER BY n`,
    )
    .pluck()
    .all();
  const replaced = db
    .prepare<[string], string>('SELECT owner FROM replaced WHERE import = ? AND owner IS NOT NULL')
    .pluck()
    .all(id);
  return [...new Set([...staged, ...replaced])];
}

/** Addresses by shop. */
type Touched = Map<string, Set<string>>;

function add(touched: Touched, shop: string, one: string): void {
  const known = touched.get(shop);
  if (known) known.add(one);
  else touched.set(shop, new Set([one]));
}

/** Finds out anew whose the events of visitors are, and adds whom that touches. */
function settle(store: Store, visitors: Touched, touched: Touched): void {
  for (const [shop, some] of visitors)
    for (const visitor of some)
      for (const owner of store.events.settle(shop, visitor)) add(touched, shop, owner);
}

interface About {
  shop: string;
  owner: string | null;
  visitor: string | null;
}

function sorted(about: readonly About[]): { owners: Touched; visitors: Touched } {
  const owners: Touched = new Map();
  const visitors: Touched = new Map();
  for (const { shop, owner, visitor } of about) {
    if (owner !== null) add(owners, shop, owner);
    if (visitor !== null) add(visitors, shop, visitor);
  }
  return { owners, visitors };
}

function applyEvents(store: Store, { import: id }: ApplyTask): Touched {
  const { db } = store;
  db.prepare(
    `INSERT INTO events (shop, id, at, visitor, email, owner, event, import)
     SELECT shop, id, at, visitor, email, email, event, ? FROM staging.events WHERE true
     ON CONFLICT (shop, id) DO NOTHING`,
  ).run(id);
  const about = db
    .prepare<[], About>('SELECT DISTINCT shop, email AS owner, visitor FROM staging.events')
    .all();
  const { owners, visitors } = sorted(about);
  settle(store, visitors, owners);
  return owners;
}

/** Takes the events of an import out again; events that came otherwise stay. */
function undoEvents(store: Store, id: string): Touched {
  const { db } = store;
  const about = db
    .prepare<[string], About>('SELECT DISTINCT shop, owner, visitor FROM events WHERE import = ?')
    .all(id);
  db.prepare('DELETE FROM events WHERE import = ?').run(id);
  const { owners, visitors } = sorted(about);
  settle(store, visitors, owners);
  return owners;
}

function undoRows(store: Store, { import: id, source }: UndoTask): string[] {
  const { db } = store;
  const wasEmpty =
    db.prepare<[string], number>('SELECT was_empty FROM imports WHERE id = ?').pluck().get(id) ===
    1;
  const ownersIn = (sql: string, of: string) => db.prepare<[string], string>(sql).pluck().all(of);
  if (wasEmpty) {
    const owners = ownersIn(
      'SELECT DISTINCT owner FROM entries WHERE source = ? AND owner IS NOT NULL',
      source,
    );
    db.prepare('DELETE FROM entries WHERE source = ?').run(source);
    return owners;
  }
  db.prepare(
    'DELETE FROM entries WHERE source = ? AND key IN (SELECT key FROM replaced WHERE import = ?)',
  ).run(source, id);
  db.prepare(
    `INSERT INTO entries (id, source, key, owner, record)
     SELECT id, ?, key, owner, record FROM replaced WHERE import = ? AND record IS NOT NULL ORDER BY id`,
  ).run(source, id);
  return ownersIn('SELECT DISTINCT owner FROM replaced WHERE import = ? AND owner IS NOT NULL', id);
}

/** Takes a checked file in, all of it or nothing, and makes anew whom it is about. */
export function applyImport(store: Store, task: ApplyTask): void {
  const { db, sources } = store;
  db.prepare('ATTACH ? AS staging').run(task.staging);
  try {
    db.transaction(() => {
      // One step back is kept: what an earlier import replaced can go.
      db.prepare(
        'DELETE FROM replaced WHERE import IN (SELECT id FROM imports WHERE source = ?)',
      ).run(task.source);
      if (task.target === 'events') {
        const owners = applyEvents(store, task);
        for (const [shop, some] of owners) refresh(store, shop, [...some]);
      } else {
        const owners = applyRows(store, task);
        if (aboutPeople.has(task.target)) refresh(store, task.shop, owners);
      }
      sources.filled(task.source, task.settings, metaOf(task.file, task.settings), task.now);
      db.prepare("UPDATE imports SET state = 'applied', applied_at = ? WHERE id = ?").run(
        task.now,
        task.import,
      );
    }).immediate();
  } finally {
    db.exec('DETACH staging');
  }
}

/** Goes back to what a source held before its last import, all or nothing. */
export function undoImport(store: Store, task: UndoTask): void {
  const { db, sources } = store;
  const { import: id, source, target, shop } = task;
  db.transaction(() => {
    if (target === 'events')
      for (const [one, owners] of undoEvents(store, id)) refresh(store, one, [...owners]);
    else {
      const owners = undoRows(store, task);
      if (aboutPeople.has(target)) refresh(store, shop, owners);
    }
    db.prepare('DELETE FROM replaced WHERE import = ?').run(id);
    db.prepare("UPDATE imports SET state = 'undone' WHERE id = ?").run(id);
    sources.touched(source, null);
  }).immediate();
}
