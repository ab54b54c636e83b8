import type { Taste } from '@carafe/core/recommend';
import type { Db } from '../database/open';

/** The tastes table: one of a shop, with its points as base64. */
export function tasteRepository(db: Db) {
  const one = db.prepare<[string], { document: string }>(
    'SELECT document FROM tastes WHERE shop = ?',
  );
  const made = db.prepare<[string], string>('SELECT made_at FROM tastes WHERE shop = ?').pluck();
  const put = db.prepare(
    `INSERT INTO tastes (shop, made_at, document) VALUES (?, ?, ?)
     ON CONFLICT (shop) DO UPDATE SET made_at = excluded.made_at, document = excluded.document`,
  );
  return {
    /** When it was reckoned; null where it was not. */
    madeAt: (shop: string): string | null => made.get(shop) ?? null,
    find(shop: string): Taste | null {
      const row = one.get(shop);
      if (!row) return null;
      const { points, ...rest } = JSON.parse(row.document) as Omit<Taste, 'points'> & {
        points: string;
      };
      const bytes = new Uint8Array(Buffer.from(points, 'base64'));
      return { ...rest, points: new Float32Array(bytes.buffer) };
    },
    put(shop: string, now: string, { points, ...rest }: Taste): void {
      const bytes = Buffer.from(points.buffer, points.byteOffset, points.byteLength);
      put.run(shop, now, JSON.stringify({ ...rest, points: bytes.toString('base64') }));
    },
  };
}
export type TasteRepository = ReturnType<typeof tasteRepository>;
