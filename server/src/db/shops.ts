import type { Shop } from '@carafe/contract';
import { reviveRecord, type World } from '@carafe/core/record';
import type { Feed } from '@carafe/core/formats';
import type { Db } from './open';

/** Shops and what all their recipients share: catalogs, feeds, coupon policies. */
export function shopsTable(db: Db) {
  const all = db.prepare<[], { document: string }>('SELECT document FROM shops ORDER BY rowid');
  const one = db.prepare<[string], { document: string }>('SELECT document FROM shops WHERE id = ?');
  const products = db.prepare<[string], { catalog: string; record: string }>(
    'SELECT catalog, record FROM products WHERE shop = ? ORDER BY rowid',
  );
  const feeds = db.prepare<[], { name: string; document: string }>(
    'SELECT name, document FROM feeds',
  );
  const policies = db.prepare<[string], { policy: string; code: string; percent: number | null }>(
    'SELECT policy, MIN(code) AS code, percent FROM coupons WHERE shop = ? GROUP BY policy',
  );
  const insertShop = db.prepare('INSERT INTO shops (id, document) VALUES (?, ?)');
  const insertProduct = db.prepare(
    'INSERT INTO products (shop, catalog, sku, record) VALUES (?, ?, ?, ?)',
  );
  const insertFeed = db.prepare('INSERT INTO feeds (name, document) VALUES (?, ?)');
  const insertCoupon = db.prepare(
    'INSERT INTO coupons (shop, policy, code, percent) VALUES (?, ?, ?, ?)',
  );
  const find = (id: string): Shop | null => {
    const row = one.get(id);
    return row ? (JSON.parse(row.document) as Shop) : null;
  };
  return {
    list: (): Shop[] => all.all().map((row) => JSON.parse(row.document) as Shop),
    find,
    insert: (shop: Shop): void => void insertShop.run(shop.id, JSON.stringify(shop)),
    insertProduct: (shop: string, catalog: string, record: Record<string, unknown>): void =>
      void insertProduct.run(shop, catalog, String(record['sku']), JSON.stringify(record)),
    insertFeed: (name: string, feed: Feed): void => void insertFeed.run(name, JSON.stringify(feed)),
    insertCoupon: (
      shop: string,
      coupon: { policy: string; code: string; percent: number | null },
    ): void => void insertCoupon.run(shop, coupon.policy, coupon.code, coupon.percent),
    /** What every recipient of a shop shares, as JSON (dates as ISO text). */
    worldJson(id: string): object | null {
      const shop = find(id);
      if (!shop) return null;
      const catalog: Record<string, unknown[]> = {};
      for (const { catalog: name, record } of products.all(id))
        (catalog[name] ??= []).push(JSON.parse(record));
      const feed = Object.fromEntries(
        feeds.all().map((f) => [f.name, JSON.parse(f.document) as unknown]),
      );
      const coupon = Object.fromEntries(
        policies.all(id).map((p) => [
          p.policy,
          {
            code: p.code,
            percent: p.percent,
            value_text: p.percent === null ? '' : `${p.percent} %`,
          },
        ]),
      );
      return { shop, catalog, feeds: feed, coupon };
    },
    world(id: string): World | null {
      const json = this.worldJson(id);
      return json ? (reviveRecord(json) as World) : null;
    },
  };
}
export type ShopsTable = ReturnType<typeof shopsTable>;
