import type { Db } from './open';

/**
 * Keeps what was read from the database as long as nothing was written to it, by this connection or another. For what
 * takes long and is asked again and again, as how many people a shop has.
 */
export function asLongAsSame<K, V>(db: Db, read: (key: K) => V): (key: K) => V {
  const own = db.prepare<[], number>('SELECT total_changes()').pluck();
  const kept = new Map<K, V>();
  let version = '';
  return (key) => {
    // What is being written may be taken back.
    if (db.inTransaction) return read(key);
    const now = `${own.get() ?? 0} ${String(db.pragma('data_version', { simple: true }))}`;
    if (now !== version) kept.clear();
    version = now;
    const known = kept.get(key);
    if (known !== undefined) return known;
    const value = read(key);
    kept.set(key, value);
    return value;
  };
}
