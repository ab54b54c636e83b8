import type { Shop } from '@carafe/contract';
import type { Db } from '../database/open';

/** The shops. */
export function shopsRepository(db: Db) {
  const all = db.prepare<[], { document: string }>('SELECT document FROM shops ORDER BY rowid');
  const one = db.prepare<[string], { document: string }>('SELECT document FROM shops WHERE id = ?');
  const insert = db.prepare('INSERT INTO shops (id, document) VALUES (?, ?)');
  const update = db.prepare('UPDATE shops SET document = ? WHERE id = ?');
  return {
    list: (): Shop[] => all.all().map((row) => JSON.parse(row.document) as Shop),
    find(id: string): Shop | null {
      const row = one.get(id);
      return row ? (JSON.parse(row.document) as Shop) : null;
    },
    update: (shop: Shop): void => void update.run(JSON.stringify(shop), shop.id),
    insert: (shop: Shop): void => void insert.run(shop.id, JSON.stringify(shop)),
  };
}
export type ShopsRepository = ReturnType<typeof shopsRepository>;
