import type { TemplateHealth } from '@carafe/contract';
import type { Db } from '../database/open';

/** What is kept of a template’s audience, to be compared with what it is after the next change of data. */
export interface StoredHealth extends TemplateHealth {
  /** How many people get each variant, by its key. */
  variants: Record<string, number>;
}

/** The template_health table. */
export function templateHealthRepository(db: Db) {
  const one = db
    .prepare<[string], string>('SELECT document FROM template_health WHERE template = ?')
    .pluck();
  const put = db.prepare(
    `INSERT INTO template_health (template, document) VALUES (?, ?)
     ON CONFLICT (template) DO UPDATE SET document = excluded.document`,
  );
  const get = (template: string): StoredHealth | null => {
    const text = one.get(template);
    return text === undefined ? null : (JSON.parse(text) as StoredHealth);
  };
  return {
    get,
    put: (template: string, health: StoredHealth): void =>
      void put.run(template, JSON.stringify(health)),
    /** Why mails of a template are held; null where they go. */
    held: (template: string): string | null => get(template)?.held ?? null,
  };
}
export type TemplateHealthRepository = ReturnType<typeof templateHealthRepository>;
