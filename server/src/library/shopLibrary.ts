import { expand, noteOfRow, type ProductNote, type ShopLibrary } from '@carafe/core/library';
import type { Template } from '@carafe/core/template';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { SourcesRepository } from '../sources/repository';
import type { LibraryRepository } from './repository';

export interface LibraryParts {
  library: Pick<LibraryRepository, 'list'>;
  sources: Pick<SourcesRepository, 'feeding'>;
  entries: Pick<EntriesRepository, 'records'>;
}

/** Notes beyond so many would make every order mail a book. */
const MAX_NOTES = 500;

/** A note with where it is kept: here by its id, or in a source. */
export interface FoundNote {
  id: string | null;
  source: { id: string; name: string } | null;
  note: ProductNote;
}

/** The notes of a shop: those written here, and those that sources feed. */
export function notesOf({ library, sources, entries }: LibraryParts, shop: string): FoundNote[] {
  const own = library
    .list(shop, 'note')
    .map(({ id, document }): FoundNote => ({ id, source: null, note: document }));
  const fed = sources.feeding('notes', shop).flatMap(({ id, name }) =>
    [...entries.records(id)].map((record): FoundNote => ({
      id: null,
      source: { id, name },
      note: noteOfRow(JSON.parse(record) as Record<string, unknown>),
    })),
  );
  return [...own, ...fed].slice(0, MAX_NOTES);
}

/** All that a shop keeps for its templates. */
export function libraryOf(parts: LibraryParts, shop: string): ShopLibrary {
  return {
    formulas: parts.library.list(shop, 'formula').map(({ document }) => document),
    notes: notesOf(parts, shop).map(({ note }) => note),
  };
}

/** A template that stands alone, with what it uses of its shop's library. */
export function expandedOf(parts: LibraryParts, template: Template): Template {
  return expand(template, libraryOf(parts, template.shop));
}
