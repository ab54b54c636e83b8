import { Shop } from '@carafe/contract';
import { z } from 'zod';
import type { Db } from '../database/open';
import { documentReader, type Damaged } from '../database/storedDocument';

// A shop that has no address of its own on the web is one all the same.
const documents = documentReader('shop', Shop.extend({ url: Shop.shape.url.or(z.literal('')) }));
interface Row {
  id: string;
  shop: string;
  document: string;
}

/** The shops. */
export function shopsRepository(db: Db) {
  const all = db.prepare<[], Row>('SELECT id, id AS shop, document FROM shops ORDER BY rowid');
  const one = db.prepare<[string], { document: string }>('SELECT document FROM shops WHERE id = ?');
  const insert = db.prepare('INSERT INTO shops (id, document) VALUES (?, ?)');
  const update = db.prepare('UPDATE shops SET document = ? WHERE id = ?');
  return {
    /** Those that can be read. */
    list: (): Shop[] =>
      documents.readable(all.all()).map(({ document }) => documents.read(document)),
    damaged: (): Damaged[] => documents.damaged(all.all()),
    find(id: string): Shop | null {
      const row = one.get(id);
      return row ? documents.read(row.document) : null;
    },
    update: (shop: Shop): void => void update.run(JSON.stringify(shop), shop.id),
    insert: (shop: Shop): void => void insert.run(shop.id, JSON.stringify(shop)),
  };
}
export type ShopsRepository = ReturnType<typeof shopsRepository>;
