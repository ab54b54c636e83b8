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
      const gone = 'source = ? AND key NOT IN (SELECT key FROM staging.staged)';
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

function applyEvents(store: Store, { import: id }: ApplyTask): Map<string, Set<string>> {
  const { db, events } = store;
  const wasEmpty = db.prepare('SELECT 1 FROM events LIMIT 1').get() === undefined;
  db.prepare('UPDATE imports SET was_empty = ? WHERE id = ?').run(Number(wasEmpty), id);
  const owners = new Map<string, Set<string>>();
  const visitors = new Map<string, Set<string>>();
  const add = (map: Map<string, Set<string>>, shop: string, one: string) => {
    const known = map.get(shop);
    if (known) known.add(one);
    else map.set(shop, new Set([one]));
  };
  if (!wasEmpty)
    db.prepare('INSERT INTO replaced (import, key) SELECT DISTINCT ?, key FROM staging.staged').run(
      id,
    );
  db.prepare(
    `INSERT INTO events (shop, id, at, visitor, email, owner, event)
     SELECT record ->> '$.shop', key, record ->> '$.at', record ->> '$.visitor', owner, owner, record
     FROM staging.staged WHERE true ORDER BY n ON CONFLICT (shop, id) DO NOTHING`,
  ).run();
  const touched = db
    .prepare<[], { shop: string; owner: string | null; visitor: string | null }>(
      `SELECT DISTINCT record ->> '$.shop' AS shop, owner, record ->> '$.visitor' AS visitor FROM staging.staged`,
    )
    .all();
  for (const { shop, owner, visitor } of touched) {
    if (owner !== null) add(owners, shop, owner);
    if (visitor !== null) add(visitors, shop, visitor);
  }
  for (const [shop, some] of visitors)
    for (const visitor of some)
      for (const owner of events.settle(shop, visitor)) add(owners, shop, owner);
  return owners;
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
    const wasEmpty =
      db.prepare<[string], number>('SELECT was_empty FROM imports WHERE id = ?').pluck().get(id) ===
      1;
    let owners: string[];
    if (target === 'events') {
      const where = wasEmpty ? '1' : 'id IN (SELECT key FROM replaced WHERE import = @id)';
      owners = db
        .prepare<object, string>(
          `SELECT DISTINCT owner FROM events WHERE owner IS NOT NULL AND ${where}`,
        )
        .pluck()
        .all({ id });
      db.prepare(`DELETE FROM events WHERE ${where}`).run({ id });
    } else if (wasEmpty) {
      owners = db
        .prepare<[string], string>(
          'SELECT DISTINCT owner FROM entries WHERE source = ? AND owner IS NOT NULL',
        )
        .pluck()
        .all(source);
      db.prepare('DELETE FROM entries WHERE source = ?').run(source);
    } else {
      owners = db
        .prepare<[string], string>(
          'SELECT DISTINCT owner FROM replaced WHERE import = ? AND owner IS NOT NULL',
        )
        .pluck()
        .all(id);
      db.prepare(
        'DELETE FROM entries WHERE source = ? AND key IN (SELECT key FROM replaced WHERE import = ?)',
      ).run(source, id);
      db.prepare(
        `INSERT INTO entries (id, source, key, owner, record)
         SELECT id, ?, key, owner, record FROM replaced WHERE import = ? AND record IS NOT NULL ORDER BY id`,
      ).run(source, id);
    }
    db.prepare('DELETE FROM replaced WHERE import = ?').run(id);
    db.prepare("UPDATE imports SET state = 'undone' WHERE id = ?").run(id);
    sources.touched(source, null);
    if (aboutPeople.has(target)) refresh(store, shop, owners);
  }).immediate();
}
