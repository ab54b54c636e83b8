import type { TemplateHealth } from '@carafe/contract';
import type { Db } from '../database/open';

/** By the id of a person, what stands for their mail. */
export type Digests = ReadonlyMap<number, number>;

interface Row {
  document: string;
  version: number;
  digests: Buffer | null;
}

function packed(digests: Digests): Buffer {
  const numbers = new Int32Array(digests.size * 2);
  let at = 0;
  for (const [person, digest] of digests) {
    numbers[at++] = person;
    numbers[at++] = digest;
  }
  return Buffer.from(numbers.buffer);
}

function unpacked(bytes: Buffer): Digests {
  const digests = new Map<number, number>();
  for (let at = 0; at + 8 <= bytes.length; at += 8)
    digests.set(bytes.readInt32LE(at), bytes.readInt32LE(at + 4));
  return digests;
}

/** What a mail is told that is held for an error. */
export const heldFor = (error: string): string =>
  `Held: an error came up in its template when data changed. ${error}`;

/** The template_health table: what a template’s audience was, to be compared with what it is after the next change. */
export function templateHealthRepository(db: Db) {
  const one = db.prepare<[string], Row>(
    'SELECT document, version, digests FROM template_health WHERE template = ?',
  );
  const put = db.prepare(
    `INSERT INTO template_health (template, document, version, digests) VALUES (?, ?, ?, ?)
     ON CONFLICT (template) DO UPDATE SET document = excluded.document, version = excluded.version, digests = excluded.digests`,
  );
  const change = db.prepare('UPDATE template_health SET document = ? WHERE template = ?');
  const get = (template: string): TemplateHealth | null => {
    const row = one.get(template);
    return row === undefined ? null : (JSON.parse(row.document) as TemplateHealth);
  };
  return {
    get,
    /** The mails as they were of that published version; null where they are not known. */
    digests(template: string, version: number): Digests | null {
      const row = one.get(template);
      return row?.digests && row.version === version ? unpacked(row.digests) : null;
    },
    /** The published version that was looked at last; 0 where none was. */
    version: (template: string): number => one.get(template)?.version ?? 0,
    put: (template: string, health: TemplateHealth, version: number, digests: Digests): void =>
      void put.run(template, JSON.stringify(health), version, packed(digests)),
    change: (template: string, health: TemplateHealth): void =>
      void change.run(JSON.stringify(health), template),
    /** Why mails of a template are held; null where they go. */
    held: (template: string): string | null => get(template)?.held ?? null,
  };
}
export type TemplateHealthRepository = ReturnType<typeof templateHealthRepository>;
