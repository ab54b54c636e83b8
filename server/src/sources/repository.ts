import type { ChangeSource, SourceSummary, SourceTarget } from '@carafe/contract';
import type { FileSettings } from '@carafe/core/intake';
import type { Db } from '../database/open';

/** What is said of a source when it is added. Times are ISO 8601. */
type NewSource = Pick<
  SourceSummary,
  | 'id'
  | 'shop'
  | 'name'
  | 'kind'
  | 'target'
  | 'formula_name'
  | 'address'
  | 'every_minutes'
  | 'fresh_hours'
  | 'next_fetch_at'
>;

/** A source as it is kept. */
export interface Source extends NewSource, Pick<SourceSummary, 'last_import_at' | 'failure'> {
  settings: FileSettings | null;
  /** What a feed says of itself. */
  meta: Record<string, unknown>;
  /** Counts the changes of what it holds. */
  revision: number;
  /** The generation of rows that is seen; an import writes the next one. */
  generation: number;
  row_count: number;
  failed_at: string | null;
}

type Row = Omit<Source, 'settings' | 'meta'> & { settings: string | null; meta: string };

function source(row: Row): Source {
  const { settings, meta } = row;
  return {
    ...row,
    settings: settings === null ? null : (JSON.parse(settings) as FileSettings),
    meta: JSON.parse(meta) as Record<string, unknown>,
  };
}

const COLUMNS =
  'id, shop, name, kind, target, formula_name, address, every_minutes, fresh_hours, settings, meta, revision, generation, row_count, last_import_at, failed_at, failure, next_fetch_at';

/** The sources table. A deleted source is kept, so that deleting can be undone. */
export function sourcesRepository(db: Db) {
  const all = db.prepare<[], Row>(
    `SELECT ${COLUMNS} FROM sources WHERE deleted_at IS NULL ORDER BY created_at, rowid`,
  );
  const one = db.prepare<[string], Row>(
    `SELECT ${COLUMNS} FROM sources WHERE id = ? AND deleted_at IS NULL`,
  );
  const feeding = db.prepare<[string, string], Row>(
    `SELECT ${COLUMNS} FROM sources
     WHERE deleted_at IS NULL AND target = ? AND (shop IS NULL OR shop = ?) ORDER BY created_at, rowid`,
  );
  const due = db.prepare<[string], Row>(
    `SELECT ${COLUMNS} FROM sources
     WHERE deleted_at IS NULL AND kind = 'address' AND next_fetch_at <= ? ORDER BY next_fetch_at`,
  );
  const insert = db.prepare(
    `INSERT INTO sources (id, shop, name, kind, target, formula_name, address, every_minutes, fresh_hours, next_fetch_at, created_at, row_count)
     VALUES (@id, @shop, @name, @kind, @target, @formula_name, @address, @every_minutes, @fresh_hours, @next_fetch_at, @now,
       CASE WHEN @target = 'events' THEN (SELECT COUNT(*) FROM events WHERE shop = @shop) ELSE 0 END)`,
  );
  const change = db.prepare(
    `UPDATE sources SET name = @name, formula_name = @formula_name, address = @address, every_minutes = @every_minutes,
       fresh_hours = @fresh_hours, next_fetch_at = @next_fetch_at WHERE id = @id`,
  );
  const touched = db.prepare(
    `UPDATE sources SET revision = revision + 1, row_count = row_count + @rows,
       last_import_at = coalesce(@now, last_import_at) WHERE id = @id`,
  );
  const failed = db.prepare('UPDATE sources SET failed_at = ?, failure = ? WHERE id = ?');
  const fetched = db.prepare('UPDATE sources SET next_fetch_at = ? WHERE id = ?');
  const setDeleted = db.prepare(
    'UPDATE sources SET deleted_at = ?, revision = revision + 1 WHERE id = ?',
  );
  const find = (id: string): Source | null => {
    const row = one.get(id);
    return row ? source(row) : null;
  };
  return {
    list: (): Source[] => all.all().map(source),
    find,
    /** Sources of a kind that a shop reads, its own and everybody's. */
    feeding: (target: SourceTarget, shop: string): Source[] =>
      feeding.all(target, shop).map(source),
    due: (now: string): Source[] => due.all(now).map(source),
    insert: (made: NewSource, now: string): void => void insert.run({ ...made, now }),
    change(id: string, wanted: ChangeSource, nextFetchAt: string | null): void {
      const before = find(id);
      if (before) change.run({ ...before, ...wanted, next_fetch_at: nextFetchAt });
    },
    /** What it holds changed other than by a file, by so many rows; `now` where something came in. */
    touched: (id: string, rows: number, now: string | null): void =>
      void touched.run({ id, rows, now }),
    failed: (id: string, message: string | null, now: string | null): void =>
      void failed.run(now, message, id),
    nextFetch: (id: string, at: string | null): void => void fetched.run(at, id),
    remove: (id: string, now: string): boolean => setDeleted.run(now, id).changes === 1,
    restore: (id: string): boolean => setDeleted.run(null, id).changes === 1,
  };
}
export type SourcesRepository = ReturnType<typeof sourcesRepository>;
