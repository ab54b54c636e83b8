import { Rule } from '@carafe/core/recommend';
import type { Db } from '../database/open';
import { documentReader, type Damaged } from '../database/storedDocument';

const COLUMNS = 'id, shop, document, COALESCE(published, document) AS published';
const documents = documentReader('recommendation rule', Rule);

interface Row {
  id: string;
  shop: string;
  document: string;
  published: string;
}

/** A rule of a shop. */
export interface RuleRow {
  id: string;
  shop: string;
  /** The draft: as its form shows it. */
  rule: Rule;
  /** What emails use. */
  published: Rule;
}

/** The rules table. */
export function rulesRepository(db: Db) {
  const all = db.prepare<[string], Row>(
    `SELECT ${COLUMNS} FROM rules WHERE shop = ? ORDER BY name`,
  );
  const everyRow = db.prepare<[], Row>(`SELECT ${COLUMNS} FROM rules`);
  const one = db.prepare<[string], Row>(`SELECT ${COLUMNS} FROM rules WHERE id = ?`);
  const named = db.prepare<[string, string], Row>(
    `SELECT ${COLUMNS} FROM rules WHERE shop = ? AND name = ?`,
  );
  const anywhere = db.prepare<[string], Row>(
    `SELECT ${COLUMNS} FROM rules WHERE name = ? ORDER BY shop`,
  );
  const insert = db.prepare(
    'INSERT INTO rules (id, shop, name, document, published, changed_at) VALUES (?, ?, ?, ?, ?, ?)',
  );
  const update = db.prepare(
    'UPDATE rules SET name = ?, document = ?, published = ?, changed_at = ? WHERE id = ?',
  );
  const remove = db.prepare('DELETE FROM rules WHERE id = ?');
  const read = ({ id, shop, document, published }: Row): RuleRow => ({
    ...{ id, shop, rule: documents.read(document) },
    published: documents.read(published),
  });
  const readable = (rows: readonly Row[]) =>
    documents.readable(rows).filter(({ published }) => documents.damage(published) === null);
  const maybe = (row: Row | undefined) => (row ? read(row) : null);
  return {
    /** Those of a shop that can be read. */
    list: (shop: string) => readable(all.all(shop)).map(read),
    damaged: (): Damaged[] =>
      documents.damaged(
        everyRow
          .all()
          .flatMap((row) => [row, { ...row, document: row.published }])
          .filter(({ document }, i, rows) => i % 2 === 0 || document !== rows[i - 1]?.document),
      ),
    find: (id: string) => maybe(one.get(id)),
    /** The rules of a name, of whatever shop. */
    everywhere: (name: string) => readable(anywhere.all(name)).map(read),
    named: (shop: string, name: string) => maybe(named.get(shop, name)),
    /** A new rule; emails use it at once, unless something else was published before. */
    insert: (id: string, shop: string, rule: Rule, now: string, published = rule): void =>
      void insert.run(id, shop, rule.name, JSON.stringify(rule), JSON.stringify(published), now),
    update: (id: string, { rule, published }: Omit<RuleRow, 'id' | 'shop'>, now: string): void =>
      void update.run(rule.name, JSON.stringify(rule), JSON.stringify(published), now, id),
    remove: (id: string): void => void remove.run(id),
  };
}
export type RulesRepository = ReturnType<typeof rulesRepository>;
