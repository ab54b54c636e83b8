import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';

export type Db = Database.Database;

/** So much of the database stays in memory: 64 MB, in SQLite’s negative KiB. */
export const CACHE_SIZE = -64_000;

/** Brings the tables forward, each migration once and whole. */
function migrate(db: Db, folder: string): void {
  const done = db.pragma('user_version', { simple: true }) as number;
  const files = readdirSync(folder)
    .filter((name) => /^\d{3}_.*\.sql$/.test(name))
    .sort();
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

/** Opens (or makes) the database and brings it forward. `:memory:` serves tests. */
export function openDatabase(file: string, migrations: string): Db {
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
