import type { Db } from '../database/open';

/** A mark that somebody is to be put together anew. */
export interface Stale {
  id: number;
  email: string;
}

/** Who is to be put together anew, in the order in which they came up. Kept, so that a stop loses nobody. */
export function stalePeopleRepository(db: Db) {
  const add = db.prepare(
    'INSERT OR IGNORE INTO stale_people (shop, email) SELECT ?, value FROM json_each(?)',
  );
  const after = db.prepare<[string, number, number], Stale>(
    'SELECT id, email FROM stale_people WHERE shop = ? AND id > ? ORDER BY id LIMIT ?',
  );
  const upTo = db
    .prepare<[string, number], number>(
      'SELECT COUNT(*) FROM (SELECT 1 FROM stale_people WHERE shop = ? LIMIT ?)',
    )
    .pluck();
  const drop = db.prepare('DELETE FROM stale_people WHERE id = ?');
  const shops = db.prepare<[], string>('SELECT DISTINCT shop FROM stale_people').pluck();
  return {
    add(shop: string, emails: Iterable<string>): void {
      add.run(shop, JSON.stringify([...emails]));
    },
    /** Those who were marked after a mark, so many at most. */
    after: (shop: string, id: number, most: number): Stale[] => after.all(shop, id, most),
    /** Whether so many wait, or more. */
    areMany: (shop: string, many: number): boolean => upTo.get(shop, many) === many,
    done: (id: number): void => void drop.run(id),
    shops: (): string[] => shops.all(),
  };
}
export type StalePeopleRepository = ReturnType<typeof stalePeopleRepository>;
