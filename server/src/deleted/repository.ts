import type { DeletedKind } from '@carafe/contract';
import type { Db } from '../database/open';
import { Refusal } from '../http/errors';

/** What is kept in the table of what was deleted; templates and occasions are kept where they were. */
export type KeptKind = Exclude<DeletedKind, 'template' | 'occasion'>;
export interface DeletedRow {
  kind: DeletedKind;
  id: string;
  name: string;
  shop: string | null;
  deleted_at: string;
}
interface Kept<T> {
  id: string;
  shop: string | null;
  name: string;
  document: T;
}

/** What was taken from what was deleted; refused where somebody else took it. */
export function takenBack<T>(kept: Kept<T> | null): Kept<T> {
  if (!kept) throw new Refusal(409, 'This has just been restored.');
  return kept;
}

/** The table of what was deleted, and the deleted rows of templates and occasions. */
export function deletedRepository(db: Db) {
  const insert = db.prepare(
    'INSERT INTO deleted (kind, id, shop, name, document, deleted_at) VALUES (?, ?, ?, ?, ?, ?)',
  );
  const since = db.prepare<{ since: string }, DeletedRow>(
    `SELECT kind, CAST(number AS TEXT) AS id, name, shop, deleted_at FROM deleted WHERE deleted_at >= @since
     UNION ALL SELECT 'template', id, name, shop, deleted_at FROM templates WHERE deleted_at >= @since
     UNION ALL SELECT 'occasion', id, json_extract(document, '$.name'), shop, deleted_at FROM occasions WHERE deleted_at >= @since
     ORDER BY deleted_at DESC`,
  );
  const one = db.prepare<[string, number], Kept<string>>(
    'SELECT id, shop, name, document FROM deleted WHERE kind = ? AND number = ?',
  );
  const drop = db.prepare('DELETE FROM deleted WHERE kind = ? AND number = ?');
  const document = db
    .prepare<[string, string], string>(
      'SELECT document FROM deleted WHERE kind = ? AND id = ? ORDER BY number DESC LIMIT 1',
    )
    .pluck();
  const old = db.prepare<[string], { kind: KeptKind; id: string }>(
    'DELETE FROM deleted WHERE deleted_at < ? RETURNING kind, id',
  );
  return {
    keep: <T>(kind: KeptKind, { id, shop, name, document }: Kept<T>, now: string): void =>
      void insert.run(kind, id, shop, name, JSON.stringify(document), now),
    since: (instant: string): DeletedRow[] => since.all({ since: instant }),
    /** What was deleted, by the number of its deletion; it is no longer among what was deleted. */
    take<T>(kind: KeptKind, number: string): Kept<T> | null {
      const found = one.get(kind, Number(number));
      if (!found) return null;
      drop.run(kind, Number(number));
      return { ...found, document: JSON.parse(found.document) as T };
    },
    /** What was deleted last under an id of its own. */
    find<T>(kind: KeptKind, id: string): T | null {
      const text = document.get(kind, id);
      return text === undefined ? null : (JSON.parse(text) as T);
    },
    /** Forgets what was deleted before an instant; gives what that was. */
    forget: (instant: string) => old.all(instant),
  };
}
export type DeletedRepository = ReturnType<typeof deletedRepository>;
