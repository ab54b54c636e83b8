import { Rule } from '@carafe/core/recommend';
import type { Db } from '../database/open';
import { documentReader, type Damaged } from '../database/storedDocument';

const documents = documentReader('recommendation rule', Rule);

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
  const everyRow = db.prepare<[], Row>('SELECT id, shop, document FROM rules');
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
    rule: documents.read(document),
  });
  const maybe = (row: Row | undefined) => (row ? read(row) : null);
  return {
    /** Those of a shop that can be read. */
    list: (shop: string) => documents.readable(all.all(shop)).map(read),
    damaged: (): Damaged[] => documents.damaged(everyRow.all()),
    find: (id: string) => maybe(one.get(id)),
    /** The rules of a name, of whatever shop. */
    everywhere: (name: string) => documents.readable(anywhere.all(name)).map(read),
    named: (shop: string, name: string) => maybe(named.get(shop, name)),
    insert: (id: string, shop: string, rule: Rule, now: string): void =>
      void insert.run(id, shop, rule.name, JSON.stringify(rule), now),
    update: (id: string, rule: Rule, now: string): void =>
      void update.run(rule.name, JSON.stringify(rule), now, id),
    remove: (id: string): void => void remove.run(id),
  };
}
export type RulesRepository = ReturnType<typeof rulesRepository>;
