import type { Db } from './open';

type Fields = Record<string, unknown>;

/** The rows of sources, as JSON. */
export function entriesTable(db: Db) {
  const count = db.prepare<[string], { n: number }>(
    'SELECT COUNT(*) AS n FROM entries WHERE source = ?',
  );
  const every = db.prepare<[string], { record: string }>(
    'SELECT record FROM entries WHERE source = ? ORDER BY id',
  );
  const one = db.prepare<[string, string], { record: string }>(
    'SELECT record FROM entries WHERE source = ? AND key = ?',
  );
  const put = db.prepare(
    `INSERT INTO entries (source, key, owner, record) VALUES (@source, @key, @owner, @record)
     ON CONFLICT (source, key) DO UPDATE SET owner = excluded.owner, record = excluded.record`,
  );
  const drop = db.prepare('DELETE FROM entries WHERE source = ? AND key = ?');
  const owned = db.prepare<[string], { target: string; shop: string | null; record: string }>(
    `SELECT sources.target, sources.shop, entries.record FROM entries JOIN sources ON sources.id = entries.source
     WHERE entries.owner = ? AND sources.deleted_at IS NULL ORDER BY sources.created_at, sources.rowid, entries.id`,
  );
  const page = db.prepare<[string, number, number], { id: number; key: string; record: string }>(
    'SELECT id, key, record FROM entries WHERE source = ? ORDER BY id LIMIT ? OFFSET ?',
  );
  const some = db.prepare<[string], { id: number; key: string; record: string }>(
    'SELECT entries.id, entries.key, record FROM json_each(?) AS wanted JOIN entries ON entries.id = wanted.value ORDER BY wanted.key',
  );
  return {
    count: (source: string): number => count.get(source)?.n ?? 0,
    *records(source: string): Generator<string> {
      for (const { record } of every.iterate(source)) yield record;
    },
    find(source: string, key: string): Fields | null {
      const row = one.get(source, key);
      return row ? (JSON.parse(row.record) as Fields) : null;
    },
    put: (source: string, key: string, owner: string | null, record: Fields): void =>
      void put.run({ source, key, owner, record: JSON.stringify(record) }),
    drop: (source: string, key: string): boolean => drop.run(source, key).changes === 1,
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
export type EntriesTable = ReturnType<typeof entriesTable>;
