import type { Fields as Read } from '@carafe/core/formula';
import { reviveRecord } from '@carafe/core/record';
import { asLongAsSame } from '../database/asLong';
import type { Db } from '../database/open';
import { walk } from '../database/walk';

/** So many rows of a source stay in memory as formulas read them. */
const MOST_KEPT = 20_000;

type Fields = Record<string, unknown>;

/** The rows of sources that are seen, as JSON. How they come and go is in imports/generations. */
export function entriesRepository(db: Db) {
  const every = walk<[string], { record: string }>(
    db,
    'SELECT record FROM live_entries WHERE source = ? ORDER BY place',
  );
  const one = db.prepare<[string, string], { record: string }>(
    'SELECT record FROM live_entries WHERE source = ? AND key = ?',
  );
  const drop = db.prepare(
    `DELETE FROM entries WHERE id = (SELECT id FROM live_entries WHERE source = ? AND key = ?)`,
  );
  const owned = db.prepare<[string], { target: string; shop: string | null; record: string }>(
    `SELECT sources.target, sources.shop, e.record FROM live_entries AS e JOIN sources ON sources.id = e.source
     WHERE e.owner = ? AND sources.deleted_at IS NULL ORDER BY sources.created_at, sources.rowid, e.place`,
  );
  const page = db.prepare<[string, number, number], { id: number; key: string; record: string }>(
    'SELECT id, key, record FROM live_entries WHERE source = ? ORDER BY place LIMIT ? OFFSET ?',
  );
  const inOrder = walk<[string], { id: number; record: string }>(
    db,
    'SELECT id, record FROM live_entries WHERE source = ? ORDER BY place',
  );
  const keyed = walk<[string], { key: string; record: string }>(
    db,
    'SELECT key, record FROM live_entries WHERE source = ? ORDER BY place',
  );
  const untold = db.prepare<[string], { key: string; since: number }>(
    `SELECT new.key, new.since
     FROM (SELECT id, generation, max(1, told_generation) AS told FROM sources WHERE id = ?) AS source
     JOIN entries AS new ON new.source = source.id AND new.since > told AND new.since <= generation
     WHERE (new.until IS NULL OR new.until > generation) AND NOT EXISTS (
       SELECT 1 FROM entries AS old
       WHERE old.source = source.id AND old.key = new.key AND old.since <= told AND (old.until IS NULL OR old.until > told))`,
  );
  const some = db.prepare<[string], { id: number; key: string; record: string }>(
    'SELECT entries.id, entries.key, record FROM json_each(?) AS wanted JOIN entries ON entries.id = wanted.value ORDER BY wanted.key',
  );
  const owners = db
    .prepare<[string], string>(
      'SELECT DISTINCT owner FROM live_entries WHERE source = ? AND owner IS NOT NULL',
    )
    .pluck();
  const find = (source: string, key: string): Fields | null => {
    const row = one.get(source, key);
    return row ? (JSON.parse(row.record) as Fields) : null;
  };
  const kept = asLongAsSame(db, () => new Map<string, Read | null>());
  return {
    *records(source: string): Generator<string> {
      for (const { record } of every(source)) yield record;
    },
    find,
    /** A row as formulas read it; kept for those who ask again as long as nothing is written. Not to be changed. */
    asRead(source: string, key: string): Read | null {
      const known = kept(source);
      let row = known.get(key);
      if (row === undefined) {
        if (known.size >= MOST_KEPT) known.clear();
        row = reviveRecord(find(source, key)) as Read | null;
        known.set(key, row);
      }
      return row;
    },
    drop: (source: string, key: string): boolean => drop.run(source, key).changes === 1,
    /** Rows with their keys, in their order, one after the other. */
    pageRows: (source: string) => keyed(source),
    /** Rows with their ids, in their order, one after the other. */
    inOrder: (source: string) => inOrder(source),
    /** Tells the stored text of a row by its key; asked for every row of a file. */
    recordOf:
      (source: string) =>
      (key: string): string | undefined =>
        one.get(source, key)?.record,
    /**
     * Rows that imports brought since occasions were told last, each with the generation that it came with. What the first
     * import brought is not new.
     */
    untold: (source: string) => untold.all(source),
    /** Everybody who has a row in a source. */
    owners: (source: string): string[] => owners.all(source),
    /** What sources of a shop hold of one address: their target and record. */
    of: (shop: string, email: string): { target: string; record: Fields }[] =>
      owned
        .all(email)
        .filter((row) => row.shop === null || row.shop === shop)
        .map(({ target, record }) => ({ target, record: JSON.parse(record) as Fields })),
    /** Rows by their ids, in the order of the ids given. */
    some: (ids: readonly number[]) =>
      some
        .all(JSON.stringify(ids))
        .map(({ id, key, record }) => ({ id, key, record: JSON.parse(record) as Fields })),
    page: (source: string, limit: number, offset: number) =>
      page
        .all(source, limit, offset)
        .map(({ id, key, record }) => ({ id, key, record: JSON.parse(record) as Fields })),
  };
}
export type EntriesRepository = ReturnType<typeof entriesRepository>;
