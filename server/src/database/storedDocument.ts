import { plainIssues } from '@carafe/core/errors';
import type { z } from 'zod';
import { Refusal } from '../http/errors';

/** A stored document that cannot be read: it is set aside, and all others go on. */
export interface Damaged {
  /** In a word: “occasion”. */
  what: string;
  shop: string;
  name: string;
  /** A sentence. */
  reason: string;
}

/** Asked for a document that cannot be read. */
export class DamagedDocument extends Refusal {}

/** What is read; null where it is damaged: for whoever shows it among others, which are shown all the same. */
export function unlessDamaged<T>(read: () => T): T | null {
  try {
    return read();
  } catch (error) {
    if (error instanceof DamagedDocument) return null;
    throw error;
  }
}

export type ReadDocument<T> = { ok: true; document: T } | { ok: false; reason: string };

/** So many characters of documents of one kind are remembered as they were read: some hundred templates. */
const MAX_REMEMBERED = 20_000_000;

/** Reads the stored documents of one kind. What was read once is not read again as long as its text stays the same. */
export class DocumentReader<T> {
  private readonly known = new Map<string, ReadDocument<T>>();
  private remembered = 0;

  constructor(
    /** In a word: “occasion”. */
    readonly what: string,
    private readonly parse: (value: unknown) => ReadDocument<T>,
  ) {}

  private look(text: string): ReadDocument<T> {
    const known = this.known.get(text);
    if (known) return known;
    let value: unknown;
    let isJson = true;
    try {
      value = JSON.parse(text);
    } catch {
      isJson = false;
    }
    const read: ReadDocument<T> = isJson
      ? this.parse(value)
      : { ok: false, reason: 'It is cut off or overwritten.' };
    this.known.set(text, read);
    this.remembered += text.length;
    for (const oldest of this.known.keys()) {
      if (this.remembered <= MAX_REMEMBERED) break;
      this.known.delete(oldest);
      this.remembered -= oldest.length;
    }
    return read;
  }

  /** The document. Throws {@link DamagedDocument} where it cannot be read. */
  read(text: string): T {
    const read = this.look(text);
    if (read.ok) return read.document;
    throw new DamagedDocument(
      500,
      `This ${this.what} cannot be read from the database: ${read.reason} Restore it from a backup.`,
    );
  }

  /** Why a document cannot be read; null where it can. */
  damage(text: string): string | null {
    const read = this.look(text);
    return read.ok ? null : read.reason;
  }

  /** Only those rows whose documents can be read. */
  readable<R extends { document: string }>(rows: readonly R[]): R[] {
    return rows.filter(({ document }) => this.look(document).ok);
  }

  /** The others, for whoever has to put them right. */
  damaged(rows: readonly { id: string; shop: string; document: string }[]): Damaged[] {
    return rows.flatMap(({ id, shop, document }) => {
      const reason = this.damage(document);
      return reason === null
        ? []
        : [{ ...{ what: this.what, shop, reason }, name: nameIn(document) ?? id }];
    });
  }
}

/** A reader of documents of one schema. */
export function documentReader<S extends z.ZodType>(
  what: string,
  schema: S,
): DocumentReader<z.infer<S>> {
  return new DocumentReader(what, (value) => {
    const parsed = schema.safeParse(value);
    if (parsed.success) return { ok: true, document: parsed.data };
    return { ok: false, reason: firstProblem(plainIssues(parsed.error.issues)) };
  });
}

/** The name that a document has, even where the rest cannot be read; null where that cannot either. */
export function nameIn(text: string): string | null {
  const name = /"name":\s*("(?:[^"\\]|\\.)*")/.exec(text)?.[1];
  try {
    return name === undefined ? null : (JSON.parse(name) as string);
  } catch {
    return null; // the damage reaches into the name
  }
}

/** The first of some problems as a sentence, with its place. */
export function firstProblem([first]: readonly { path: string; message: string }[]): string {
  if (!first) return '';
  const { path, message } = first;
  return `${path ? `${path}: ` : ''}${message}${message.endsWith('.') ? '' : '.'}`;
}
