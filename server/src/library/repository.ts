import type { NamedFormula, ProductNote } from '@carafe/core/library';
import type { Db } from '../database/open';

interface Documents {
  formula: NamedFormula;
  note: ProductNote;
}
export type LibraryKind = keyof Documents;
export interface Kept<K extends LibraryKind> {
  id: string;
  shop: string;
  document: Documents[K];
}
interface Row {
  id: string;
  shop: string;
  document: string;
}

/** The library table. */
export function libraryRepository(db: Db) {
  const all = db.prepare<[string, LibraryKind], Row>(
    'SELECT id, shop, document FROM library WHERE shop = ? AND kind = ? ORDER BY rowid',
  );
  const one = db.prepare<[string, LibraryKind], Row>(
    'SELECT id, shop, document FROM library WHERE id = ? AND kind = ?',
  );
  const insert = db.prepare(
    'INSERT INTO library (id, shop, kind, document, changed_at) VALUES (?, ?, ?, ?, ?)',
  );
  const update = db.prepare('UPDATE library SET document = ?, changed_at = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM library WHERE id = ?');
  const read = <K extends LibraryKind>({ document, ...row }: Row): Kept<K> => ({
    ...row,
    document: JSON.parse(document) as Documents[K],
  });
  return {
    list: <K extends LibraryKind>(shop: string, kind: K): Kept<K>[] =>
      all.all(shop, kind).map((row) => read<K>(row)),
    find<K extends LibraryKind>(id: string, kind: K): Kept<K> | null {
      const row = one.get(id, kind);
      return row ? read<K>(row) : null;
    },
    insert<K extends LibraryKind>(kind: K, { id, shop, document }: Kept<K>, now: string): void {
      insert.run(id, shop, kind, JSON.stringify(document), now);
    },
    update: (id: string, document: Documents[LibraryKind], now: string): void =>
      void update.run(JSON.stringify(document), now, id),
    remove: (id: string): void => void remove.run(id),
  };
}
export type LibraryRepository = ReturnType<typeof libraryRepository>;
