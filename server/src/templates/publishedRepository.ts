import type { Published } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import type { Db } from '../database/open';
import { storedTemplates } from './storedTemplates';

/** The published table: a template as it was each time it was published. */
export function publishedRepository(db: Db) {
  const all = db.prepare<[string], Published>(
    'SELECT number, at, note FROM published WHERE template = ? ORDER BY number DESC',
  );
  const one = db
    .prepare<[string, number], string>(
      'SELECT document FROM published WHERE template = ? AND number = ?',
    )
    .pluck();
  const last = db
    .prepare<[string], number | null>('SELECT MAX(number) FROM published WHERE template = ?')
    .pluck();
  const insert = db.prepare(
    'INSERT INTO published (template, number, at, note, document) VALUES (?, ?, ?, ?, ?)',
  );
  return {
    /** The latest first. */
    list: (template: string): Published[] => all.all(template),
    /** A version; null where there is none. Throws where it is damaged. */
    document(template: string, number: number): Template | null {
      const text = one.get(template, number);
      return text === undefined ? null : storedTemplates.read(text);
    },
    last: (template: string): number => last.get(template) ?? 0,
    insert: (template: string, { number, at, note }: Published, document: Template): void =>
      void insert.run(template, number, at, note, JSON.stringify(document)),
  };
}
export type PublishedRepository = ReturnType<typeof publishedRepository>;
