import type { ImportCounts, ImportMode, ImportState } from '@carafe/contract';
import type { FileSettings } from '@carafe/core/intake';
import type { Db } from '../database/open';

/** A file on its way into a source, or that went in. */
export interface Import {
  id: string;
  source: string;
  state: ImportState;
  /** Where the file is kept until it was taken. */
  file: string;
  name: string;
  bytes: number;
  mode: ImportMode;
  settings: FileSettings | null;
  counts: ImportCounts | null;
  message: string | null;
  made_at: string;
  applied_at: string | null;
}

type Row = Omit<Import, 'settings' | 'counts'> & { settings: string | null; counts: string | null };

const parsed = <T>(text: string | null): T | null =>
  text === null ? null : (JSON.parse(text) as T);

function fromRow(row: Row): Import {
  return { ...row, settings: parsed(row.settings), counts: parsed(row.counts) };
}

const COLUMNS =
  'id, source, state, file, name, bytes, mode, settings, counts, message, made_at, applied_at';

/** The imports table. */
export function importsRepository(db: Db) {
  const one = db.prepare<[string], Row>(`SELECT ${COLUMNS} FROM imports WHERE id = ?`);
  const ofSource = db.prepare<[string], Row>(
    `SELECT ${COLUMNS} FROM imports WHERE source = ? ORDER BY made_at DESC, rowid DESC LIMIT 50`,
  );
  const lastTaken = db.prepare<[string], Row>(
    `SELECT ${COLUMNS} FROM imports WHERE source = ? AND state IN ('applied', 'undone')
     ORDER BY applied_at DESC, rowid DESC LIMIT 1`,
  );
  const waiting = db.prepare<[string], { id: string }>(
    `SELECT id FROM imports WHERE source = ? AND state = 'checked' ORDER BY made_at DESC, rowid DESC LIMIT 1`,
  );
  const insert = db.prepare(
    `INSERT INTO imports (id, source, state, file, name, bytes, mode, made_at)
     VALUES (@id, @source, 'looking', @file, @name, @bytes, @mode, @now)`,
  );
  const update = db.prepare(
    `UPDATE imports SET state = @state, mode = @mode, settings = @settings, counts = @counts, message = @message
     WHERE id = @id`,
  );
  const interrupted = db.prepare(
    `UPDATE imports SET state = 'stopped', message = 'Carafe was stopped while this was checked.' WHERE state = 'checking'
     AND NOT EXISTS (SELECT 1 FROM jobs WHERE kind = 'check' AND key = imports.id)`,
  );
  const applying = db.prepare<[], Row>(`SELECT ${COLUMNS} FROM imports WHERE state = 'applying'`);
  const undecided = db.prepare<object, Row>(
    `SELECT ${COLUMNS} FROM imports AS one WHERE state IN ('looking', 'checked', 'failed', 'stopped')
     AND (made_at < @old OR (made_at < @recent AND EXISTS
       (SELECT 1 FROM imports AS later WHERE later.source = one.source AND later.made_at > one.made_at)))`,
  );
  const kept = db.prepare<[], { file: string }>(
    "SELECT file FROM imports WHERE state NOT IN ('undone')",
  );
  const forgotten = db.prepare("UPDATE imports SET state = 'stopped', message = ? WHERE id = ?");
  const undone = db.prepare("UPDATE imports SET state = 'undone' WHERE id = ?");
  const find = (id: string): Import | null => {
    const row = one.get(id);
    return row ? fromRow(row) : null;
  };
  return {
    find,
    of: (source: string): Import[] => ofSource.all(source).map(fromRow),
    /** The last file that was taken, also where it was gone back from since. */
    lastTaken(source: string): Import | null {
      const row = lastTaken.get(source);
      return row ? fromRow(row) : null;
    },
    /** The import that was checked and waits for a decision. */
    waiting: (source: string): string | null => waiting.get(source)?.id ?? null,
    insert: (
      made: Pick<Import, 'id' | 'source' | 'file' | 'name' | 'bytes' | 'mode'>,
      now: string,
    ): void => void insert.run({ ...made, now }),
    change(
      id: string,
      wanted: Partial<Pick<Import, 'state' | 'mode' | 'settings' | 'counts' | 'message'>>,
    ): void {
      const before = find(id);
      if (!before) return;
      const { state, mode, settings, counts, message } = { ...before, ...wanted };
      update.run({
        id,
        state,
        mode,
        message,
        settings: settings && JSON.stringify(settings),
        counts: counts && JSON.stringify(counts),
      });
    },
    /** What was being imported when the server stopped. */
    applying: (): Import[] => applying.all().map(fromRow),
    undone: (id: string): void => void undone.run(id),
    /** Files that nobody decided on: made before `old`, or before `recent` where a later one has come. */
    undecided: (old: Date, recent: Date): Import[] =>
      undecided.all({ old: old.toISOString(), recent: recent.toISOString() }).map(fromRow),
    /** The files of imports, each of which may have others beside it. */
    files: (): string[] => kept.all().map(({ file }) => file),
    forgotten: (id: string, message: string): void => void forgotten.run(message, id),
    /** What was being checked when the server stopped is told so. */
    interrupted: (): void => void interrupted.run(),
  };
}
export type ImportsRepository = ReturnType<typeof importsRepository>;
