import { NamedFormula, ProductNote } from '@carafe/core/library';
import type { Db } from '../database/open';
import { documentReader, type Damaged, type DocumentReader } from '../database/storedDocument';

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

const documents: { [K in LibraryKind]: DocumentReader<Documents[K]> } = {
  formula: documentReader('named formula', NamedFormula),
  note: documentReader('product note', ProductNote),
};
const KINDS = Object.keys(documents) as LibraryKind[];

/** The library table. */
export function libraryRepository(db: Db) {
  const all = db.prepare<[string, LibraryKind], Row>(
    'SELECT id, shop, document FROM library WHERE shop = ? AND kind = ? ORDER BY rowid',
  );
  const everyRow = db.prepare<[LibraryKind], Row>(
    'SELECT id, shop, document FROM library WHERE kind = ? ORDER BY rowid',
  );
  const one = db.prepare<[string, LibraryKind], Row>(
    'SELECT id, shop, document FROM library WHERE id = ? AND kind = ?',
  );
  const insert = db.prepare(
    'INSERT INTO library (id, shop, kind, document, changed_at) VALUES (?, ?, ?, ?, ?)',
  );
  const update = db.prepare('UPDATE library SET document = ?, changed_at = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM library WHERE id = ?');
  const read = <K extends LibraryKind>(kind: K, { document, ...row }: Row): Kept<K> => ({
    ...row,
    document: documents[kind].read(document),
  });
  return {
    /** Those of a shop that can be read. */
    list: <K extends LibraryKind>(shop: string, kind: K): Kept<K>[] =>
      documents[kind].readable(all.all(shop, kind)).map((row) => read(kind, row)),
    damaged: (): Damaged[] => KINDS.flatMap((kind) => documents[kind].damaged(everyRow.all(kind))),
    find<K extends LibraryKind>(id: string, kind: K): Kept<K> | null {
      const row = one.get(id, kind);
      return row ? read(kind, row) : null;
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
