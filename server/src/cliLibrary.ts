import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { expand, type ShopLibrary } from '@carafe/core/library';
import type { Template } from '@carafe/core/template';
import Database from 'better-sqlite3';
import { libraryRepository } from './library/repository';
import { libraryOf } from './library/shopLibrary';
import { entriesRepository } from './sources/entriesRepository';
import { sourcesRepository } from './sources/repository';
import { UsageError } from './usageError';

export interface LibraryFlags {
  /** A file of what the shop keeps: notes and formulas. */
  library?: string;
  /** The data folder of a Carafe whose library is meant. */
  data?: string;
}

/** What a template uses of a shop's library, from a file or from a data folder; nothing where neither is named. */
function libraryFor(template: Template, { library, data }: LibraryFlags): ShopLibrary | null {
  if (library !== undefined) {
    if (!existsSync(library)) throw new UsageError(`There is no file ${library}.`);
    try {
      const { notes = [], formulas = [] } = JSON.parse(
        readFileSync(library, 'utf8'),
      ) as Partial<ShopLibrary>;
      return { notes, formulas };
    } catch {
      throw new UsageError(`${library} is not a library: JSON with “notes” and “formulas”.`);
    }
  }
  if (data === undefined) return null;
  const file = join(resolve(data), 'carafe.db');
  if (!existsSync(file)) throw new UsageError(`There is no database of Carafe in ${data}.`);
  const db = new Database(file, { readonly: true });
  try {
    const parts = {
      library: libraryRepository(db),
      sources: sourcesRepository(db),
      entries: entriesRepository(db),
    };
    return libraryOf(parts, template.shop);
  } finally {
    db.close();
  }
}

/** Whether a template shows product notes, which stand in the library alone. */
const showsNotes = (template: Template): boolean =>
  /"kind":"notes"|"notes":true/.test(JSON.stringify(template.sections));

/** A template with what it uses of the library put in. Without a library, one that needs it is refused. */
export function withLibrary(template: Template, flags: LibraryFlags): Template {
  const library = libraryFor(template, flags);
  if (library) return expand(template, library);
  if (showsNotes(template))
    throw new UsageError(
      'This template shows product notes, which are in the shop’s library. Name it: --library <file>, or --data <folder>.',
    );
  return template;
}
