import type { Shape } from '@carafe/core/shape';
import type { Db } from '../database/open';

/** The shapes table. */
export function shapesRepository(db: Db) {
  const one = db.prepare<[string], string>('SELECT document FROM shapes WHERE shop = ?').pluck();
  const put = db.prepare(
    `INSERT INTO shapes (shop, document) VALUES (?, ?)
     ON CONFLICT (shop) DO UPDATE SET document = excluded.document`,
  );
  return {
    find(shop: string): Shape | null {
      const document = one.get(shop);
      return document === undefined ? null : (JSON.parse(document) as Shape);
    },
    put: (shop: string, shape: Shape): void => void put.run(shop, JSON.stringify(shape)),
  };
}
export type ShapesRepository = ReturnType<typeof shapesRepository>;
