import type { Format } from '../formats/detect';
import { readFeed } from '../formats/feeds/feed';
import { FormatError } from '../formats/formatError';
import { flatten, listAt, listsIn, readJson, type ListFound } from '../formats/json';
import { ordersIn, productsIn } from '../formats/jsonld';
import type { TargetId } from './targets';

type Fields = Record<string, unknown>;

/** The records of a document that is read whole, and what else it says. */
export interface Document {
  records: Fields[];
  /** Lists that could be meant, for pointing at one. */
  lists: ListFound[];
  pointer: string;
  /** A feed's own title and address. */
  feed?: { title: string; link?: string };
}

/**
 * Reads a document: the list at `pointer` of a JSON text (the longest where none is given), the products
 * or orders of JSON-LD, the posts of a feed. Throws a FormatError.
 */
export function readDocument(
  text: string,
  format: Exclude<Format, 'table' | 'ndjson'>,
  target: TargetId,
  pointer?: string,
): Document {
  switch (format) {
    case 'feed': {
      const { title, link, posts } = readFeed(text);
      const records = posts.map((post): Fields => ({ ...post }));
      return { records, lists: [], pointer: '', feed: { title, ...(link && { link }) } };
    }
    case 'jsonld': {
      const document = readJson(text);
      const records = target === 'orders' ? ordersIn(document) : productsIn(document);
      if (records.length === 0)
        throw new FormatError(
          `There is no ${target === 'orders' ? 'Order' : 'Product'} of schema.org in this document.`,
        );
      return { records, lists: [], pointer: '' };
    }
    case 'json': {
      const document = readJson(text);
      const lists = listsIn(document);
      const at = pointer ?? lists[0]?.pointer ?? '';
      return { records: listAt(document, at), lists, pointer: at };
    }
  }
}

/** The names of all fields of records, those inside records with a dot, in the order of their coming. */
export function columnsOf(records: readonly Fields[]): string[] {
  const names = new Set<string>();
  for (const record of records) for (const name of flatten(record).keys()) names.add(name);
  return [...names];
}

/** A record as the cells of a row. */
export function cellsOf(record: Fields, columns: readonly string[]): unknown[] {
  const cells = flatten(record);
  return columns.map((name) => cells.get(name));
}
