import { FIRST_RULES, ShopRules, type Segment } from '@carafe/core/occasion';
import type { Db } from '../database/open';
import { storedFields } from '../database/storedFields';

/** The segments table. */
export function segmentsRepository(db: Db) {
  const all = db.prepare<[string], Segment>(
    'SELECT name, formula FROM segments WHERE shop = ? ORDER BY name',
  );
  const insert = db.prepare(
    'INSERT INTO segments (shop, name, formula, changed_at) VALUES (?, ?, ?, ?)',
  );
  const update = db.prepare(
    'UPDATE segments SET name = ?, formula = ?, changed_at = ? WHERE shop = ? AND name = ?',
  );
  const remove = db.prepare('DELETE FROM segments WHERE shop = ? AND name = ?');
  return {
    list: (shop: string): Segment[] => all.all(shop),
    insert: (shop: string, { name, formula }: Segment, now: string): void =>
      void insert.run(shop, name, formula, now),
    update: (shop: string, before: string, { name, formula }: Segment, now: string): void =>
      void update.run(name, formula, now, shop, before),
    remove: (shop: string, name: string): void => void remove.run(shop, name),
  };
}
export type SegmentsRepository = ReturnType<typeof segmentsRepository>;

/** The shop_rules table. */
export function shopRulesRepository(db: Db) {
  const one = db
    .prepare<[string], string>('SELECT document FROM shop_rules WHERE shop = ?')
    .pluck();
  const put = db.prepare(
    'INSERT INTO shop_rules (shop, document) VALUES (?, ?) ON CONFLICT (shop) DO UPDATE SET document = excluded.document',
  );
  const everyRow = db.prepare<[], { shop: string; document: string }>(
    'SELECT shop, document FROM shop_rules',
  );
  const { read, lost } = storedFields(ShopRules, FIRST_RULES);
  return {
    get: (shop: string): ShopRules => read(one.get(shop)),
    /** The fields whose stored value cannot be read, by shop. */
    lost: () => everyRow.all().map(({ shop, document }) => ({ shop, fields: lost(document) })),
    put: (shop: string, rules: ShopRules): void => void put.run(shop, JSON.stringify(rules)),
  };
}
export type ShopRulesRepository = ReturnType<typeof shopRulesRepository>;
