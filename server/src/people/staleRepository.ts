import type { Db } from '../database/open';

/** Who is to be put together anew, in the order in which they came up. Kept, so that a stop loses nobody. */
export function stalePeopleRepository(db: Db) {
  const add = db.prepare('INSERT OR IGNORE INTO stale_people (shop, email) VALUES (?, ?)');
  const next = db.prepare<[string, number], { id: number; email: string }>(
    'SELECT id, email FROM stale_people WHERE shop = ? ORDER BY id LIMIT ?',
  );
  const drop = db.prepare('DELETE FROM stale_people WHERE id = ?');
  const shops = db.prepare<[], string>('SELECT DISTINCT shop FROM stale_people').pluck();
  return {
    add(shop: string, emails: Iterable<string>): void {
      for (const email of emails) add.run(shop, email);
    },
    next: (shop: string, count: number) => next.all(shop, count),
    done: (id: number): void => void drop.run(id),
    shops: (): string[] => shops.all(),
  };
}
export type StalePeopleRepository = ReturnType<typeof stalePeopleRepository>;
