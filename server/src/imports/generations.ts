import type { FileSettings } from '@carafe/core/intake';
import type { Db } from '../database/open';

/** What changes about a source when a file becomes visible. */
export interface Visible {
  import: string;
  source: string;
  generation: number;
  settings: FileSettings;
  meta: Record<string, unknown>;
  /** How many rows there are more, or fewer. */
  rows: number;
  /** ISO 8601. */
  now: string;
}

/** A stretch of staged rows: `from` exclusive, `to` inclusive. */
interface Stretch {
  from: number;
  to: number;
}

/**
 * How rows of a source come and go. A file is written as the next generation of its source, which nobody
 * sees until the source is said to be of it; what it replaces stays as the generation before, for going back.
 */
export function generationsRepository(db: Db) {
  const bySource = (sql: string) => db.prepare<[string, number], number>(sql).pluck();
  const unseen = bySource('SELECT id FROM entries WHERE +source = ? AND since > ? ORDER BY id');
  const unended = bySource('SELECT id FROM entries WHERE +source = ? AND until > ? ORDER BY id');
  const past = bySource('SELECT id FROM entries WHERE +source = ? AND until <= ? ORDER BY id');
  const ownersSince = db
    .prepare<[string, number, number], string>(
      'SELECT DISTINCT owner FROM entries WHERE +source = ? AND (since = ? OR until = ?) AND owner IS NOT NULL',
    )
    .pluck();
  const remove = db.prepare('DELETE FROM entries WHERE id = ?');
  const end = db.prepare('UPDATE entries SET until = ? WHERE id = ?');
  const lastPlace = db
    .prepare<[string], number>('SELECT coalesce(MAX(place), 0) FROM entries WHERE source = ?')
    .pluck();
  const setGeneration = db.prepare(
    `UPDATE sources SET generation = @generation, told_generation = min(told_generation, @generation),
       row_count = row_count + @rows, revision = revision + 1 WHERE id = @source`,
  );
  const filled = db.prepare(
    `UPDATE sources SET settings = @settings, meta = @meta, last_import_at = @now, failed_at = NULL, failure = NULL
     WHERE id = @source`,
  );
  const applied = db.prepare(
    "UPDATE imports SET state = 'applied', applied_at = @now WHERE id = @import",
  );
  const each = (statement: { run: (id: number) => unknown }) => (ids: readonly number[]) => {
    for (const id of ids) statement.run(id);
  };
  return {
    attach: (file: string): void => void db.prepare('ATTACH ? AS staging').run(file),
    detach: (): void => void db.exec('DETACH staging'),
    /** Rows that an import that was cut off has left: nobody ever saw them. */
    unseen: (source: string, generation: number) => unseen.all(source, generation),
    /** Rows that it meant to end. */
    unended: (source: string, generation: number) => unended.all(source, generation),
    /** Rows that were replaced, as the way back. */
    past: (source: string, generation: number) => past.all(source, generation),
    /** Live rows that a whole file has not: neither as a row nor as one that cannot be read. */
    gone: (source: string): number[] =>
      db
        .prepare<[string], number>(
          `SELECT id FROM entries WHERE source = ? AND until IS NULL AND key NOT IN (
             SELECT key FROM staging.staged UNION SELECT key FROM staging.rejected WHERE key IS NOT NULL)`,
        )
        .pluck()
        .all(source),
    /** Everybody whose rows come or go with a generation. */
    owners: (source: string, generation: number) => ownersSince.all(source, generation, generation),
    remove: each(remove),
    end: (ids: readonly number[], generation: number | null): void => {
      for (const id of ids) end.run(generation, id);
    },
    lastPlace: (source: string): number => lastPlace.get(source) ?? 0,
    lastStaged: (table: 'staged' | 'events'): number =>
      db
        .prepare<[], number>(`SELECT coalesce(MAX(rowid), 0) FROM staging.${table}`)
        .pluck()
        .get() ?? 0,
    /** The owners of staged rows that change something, in the order of the file. */
    stagedOwners: (): string[] =>
      db
        .prepare<[], string>(
          `SELECT owner FROM staging.staged WHERE owner IS NOT NULL AND outcome <> 'unchanged' ORDER BY n`,
        )
        .pluck()
        .all(),
    /** Writes a stretch of a file into a source that has no rows. */
    insertFirst({
      from,
      to,
      source,
      generation,
    }: Stretch & { source: string; generation: number }) {
      db.prepare(
        `INSERT INTO entries (source, key, owner, record, place, since)
         SELECT @source, key, owner, record, n, @generation FROM staging.staged WHERE n > @from AND n <= @to`,
      ).run({ from, to, source, generation });
    },
    /** Writes a stretch beside the rows that are there; changed rows keep their place. */
    insertNext(given: Stretch & { source: string; generation: number; place: number }): void {
      db.prepare(
        `INSERT INTO entries (source, key, owner, record, place, since)
         SELECT @source, s.key, s.owner, s.record, coalesce(e.place, @place + s.n), @generation
         FROM staging.staged AS s LEFT JOIN entries AS e
           ON e.source = @source AND e.key = s.key AND e.until IS NULL AND e.since < @generation
         WHERE s.n > @from AND s.n <= @to AND s.outcome <> 'unchanged'`,
      ).run(given);
      const { from, to, source, generation } = given;
      db.prepare(
        `UPDATE entries SET until = @generation WHERE source = @source AND until IS NULL AND since < @generation
           AND key IN (SELECT key FROM staging.staged WHERE n > @from AND n <= @to AND outcome = 'changed')`,
      ).run({ from, to, source, generation });
    },
    /** Says that a source is of another generation; from here on it is seen. */
    show({ import: id, source, generation, settings, meta, rows, now }: Visible): void {
      setGeneration.run({ source, generation, rows });
      filled.run({
        source,
        settings: JSON.stringify(settings),
        meta: JSON.stringify(meta),
        now,
      });
      applied.run({ import: id, now });
    },
    /** Says that a source is of the generation before. */
    showBefore: (source: string, generation: number, rows: number): void =>
      void setGeneration.run({ source, generation, rows }),
  };
}
export type GenerationsRepository = ReturnType<typeof generationsRepository>;
