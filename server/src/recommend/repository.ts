import type { Rule } from '@carafe/core/recommend';
import type { Db } from '../database/open';

interface Row {
  id: string;
  shop: string;
  document: string;
}

/** The rules table. */
export function rulesRepository(db: Db) {
  const all = db.prepare<[string], Row>(
    'SELECT id, shop, document FROM rules WHERE shop = ? ORDER BY name',
  );
  const one = db.prepare<[string], Row>('SELECT id, shop, document FROM rules WHERE id = ?');
  const named = db.prepare<[string, string], Row>(
    'SELECT id, shop, document FROM rules WHERE shop = ? AND name = ?',
  );
  const anywhere = db.prepare<[string], Row>(
    'SELECT id, shop, document FROM rules WHERE name = ? ORDER BY shop',
  );
  const insert = db.prepare(
    'INSERT INTO rules (id, shop, name, document, changed_at) VALUES (?, ?, ?, ?, ?)',
  );
  const update = db.prepare('UPDATE rules SET name = ?, document = ?, changed_at = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM rules WHERE id = ?');
  const read = ({ id, shop, document }: Row): { id: string; shop: string; rule: Rule } => ({
    ...{ id, shop },
    rule: JSON.parse(document) as Rule,
  });
  const maybe = (row: Row | undefined) => (row ? read(row) : null);
  return {
    list: (shop: string) => all.all(shop).map(read),
    find: (id: string) => maybe(one.get(id)),
    /** The rules of a name, of whatever shop. */
    everywhere: (name: string) => anywhere.all(name).map(read),
    named: (shop: string, name: string) => maybe(named.get(shop, name)),
    insert: (id: string, shop: string, rule: Rule, now: string): void =>
      void insert.run(id, shop, rule.name, JSON.stringify(rule), now),
    update: (id: string, rule: Rule, now: string): void =>
      void update.run(rule.name, JSON.stringify(rule), now, id),
    remove: (id: string): void => void remove.run(id),
  };
}
export type RulesRepository = ReturnType<typeof rulesRepository>;
