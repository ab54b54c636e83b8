import type { StoredTemplate } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import type { Db } from '../database/open';
import type { Damaged } from '../database/storedDocument';
import { storedTemplates } from './storedTemplates';

interface Row {
  id: string;
  version: number;
  updated_at: string;
  document: string;
}

function stored(row: Row): StoredTemplate {
  const { id, version, updated_at, document } = row;
  return { id, version, updated_at, template: storedTemplates.read(document) };
}

export type Saved =
  { ok: true; stored: StoredTemplate } | { ok: false; current: StoredTemplate | null };

/** The templates table. A deleted template is kept, so that deleting can be undone. */
export function templatesRepository(db: Db) {
  const columns = 'id, version, updated_at, document';
  const all = db.prepare<[], Row>(
    `SELECT ${columns} FROM templates WHERE deleted_at IS NULL ORDER BY updated_at DESC, name`,
  );
  const one = db.prepare<[string], Row>(
    `SELECT ${columns} FROM templates WHERE id = ? AND deleted_at IS NULL`,
  );
  const everyRow = db.prepare<[], { id: string; shop: string; document: string }>(
    'SELECT id, shop, document FROM templates WHERE deleted_at IS NULL',
  );
  const insert = db.prepare(
    `INSERT INTO templates (id, name, shop, version, created_at, updated_at, document)
     VALUES (@id, @name, @shop, 1, @now, @now, @document)`,
  );
  const update = db.prepare(
    `UPDATE templates SET name = @name, shop = @shop, version = version + 1, updated_at = @now, document = @document
     WHERE id = @id AND version = @version AND deleted_at IS NULL`,
  );
  const styleOf = db
    .prepare<[string], string>(
      `SELECT json_extract(document, '$.style') FROM templates WHERE shop = ? AND deleted_at IS NULL
       ORDER BY updated_at DESC, name LIMIT 1`,
    )
    .pluck();
  const setDeleted = db.prepare('UPDATE templates SET deleted_at = ? WHERE id = ?');
  const find = (id: string): StoredTemplate | null => {
    const row = one.get(id);
    return row ? stored(row) : null;
  };
  return {
    /** Those that can be read. */
    list: (): StoredTemplate[] => storedTemplates.readable(all.all()).map(stored),
    damaged: (): Damaged[] => storedTemplates.damaged(everyRow.all()),
    find,
    /** Whether there is one, whether or not it can be read. */
    has: (id: string): boolean => one.get(id) !== undefined,
    /** The house style of the template of a shop that was changed last. */
    styleOf(shop: string): unknown {
      const text = styleOf.get(shop);
      return text === undefined ? null : (JSON.parse(text) as unknown);
    },
    insert(id: string, template: Template, now: string): StoredTemplate {
      const { name, shop } = template;
      insert.run({ id, name, shop, now, document: JSON.stringify(template) });
      const stored = find(id);
      if (!stored) throw new Error('A template that was written is there to be read.');
      return stored;
    },
    /** Saves what was made from `version`; where another save came between, nothing changes. */
    save(id: string, version: number, template: Template, now: string): Saved {
      const { name, shop } = template;
      const document = JSON.stringify(template);
      const { changes } = update.run({ id, version, name, shop, now, document });
      const current = find(id);
      return changes === 1 && current ? { ok: true, stored: current } : { ok: false, current };
    },
    remove: (id: string, now: string): boolean => setDeleted.run(now, id).changes === 1,
    restore: (id: string): boolean => setDeleted.run(null, id).changes === 1,
  };
}
export type TemplatesRepository = ReturnType<typeof templatesRepository>;
