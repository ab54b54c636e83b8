import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { StartProblem } from '../startProblem';

export type Db = Database.Database;

/** So much of the database stays in memory: 64 MB, in SQLite’s negative KiB. */
export const CACHE_SIZE = -64_000;

/** Brings the tables forward, each migration once and whole. */
function migrate(db: Db, folder: string): void {
  const done = db.pragma('user_version', { simple: true }) as number;
  const files = readdirSync(folder)
    .filter((name) => /^\d{3}_.*\.sql$/.test(name))
    .sort();
  const newest = Number(files.at(-1)?.slice(0, 3) ?? 0);
  if (done > newest)
    throw new StartProblem(
      `The database ${db.name} was made by a newer version of Carafe (its tables are of version ${done}, and this Carafe knows ${newest}). Start that version, or set CARAFE_DATA to another folder. Nothing was changed.`,
    );
  for (const file of files) {
    const number = Number(file.slice(0, 3));
    if (number <= done) continue;
    const sql = readFileSync(join(folder, file), 'utf8');
    db.transaction(() => {
      db.exec(sql);
      db.pragma(`user_version = ${number}`);
    })();
  }
}

/** A file without a byte is what a full disk or a failed copy leaves behind: it is no new database. */
function refuseEmpty(file: string): void {
  if (statSync(file, { throwIfNoEntry: false })?.size === 0)
    throw new StartProblem(
      `The database ${file} is empty. Put a backup in its place, or delete the file to begin with the demo data.`,
    );
}

/** Opens (or makes) the database and brings it forward. `:memory:` serves tests. */
export function openDatabase(file: string, migrations: string): Db {
  if (file !== ':memory:') refuseEmpty(file);
  // Who writes is agreed on before SQLite is asked (see lane.ts): this waits for other processes.
  const db = new Database(file, { timeout: 30_000 });
  db.pragma('journal_mode = WAL');
  // With a write-ahead log this is safe against a crash of the process, and far quicker.
  db.pragma('synchronous = NORMAL');
  // The log is brought over by `Store.checkpoint`, where nobody waits for it; by a write only past 160 MB.
  db.pragma('wal_autocheckpoint = 40000');
  db.pragma(`cache_size = ${CACHE_SIZE}`);
  db.pragma('foreign_keys = ON');
  migrate(db, migrations);
  return db;
}
