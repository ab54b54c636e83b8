import { z } from 'zod';
import { parsedRunning, quote } from '../formula';
import { richGist } from '../template/gist';
import { Running } from '../template/parts';
import { RichText, type Inline } from '../template/richText';

/** Where in an order mail a note is shown. */
export const NOTE_PLACES = ['before', 'line', 'after', 'address'] as const;
export type NotePlace = (typeof NOTE_PLACES)[number];

const Names = z.array(z.string().trim().min(1).max(200)).max(200);

/** Words and a picture that go with products in order mails. */
export const ProductNote = z.strictObject({
  title: z.string().max(300),
  text: RichText,
  image: Running,
  link: Running,
  /** Shown with products of these; with every order where all three are empty. */
  skus: Names,
  categories: Names,
  tags: Names,
  /** With these statuses of the order; with any where it is empty. */
  statuses: Names,
  place: z.enum(NOTE_PLACES),
});
export type ProductNote = z.infer<typeof ProductNote>;

export const EMPTY_NOTE: ProductNote = {
  ...{ title: '', image: '', link: '', skus: [], categories: [], tags: [], statuses: [] },
  text: { type: 'doc', content: [{ type: 'paragraph' }] },
  place: 'after',
};

const list = (names: readonly string[]) => `[${names.map(quote).join(', ')}]`;

/**
 * What of a line says that a note goes with it; `of` is the name of the line. Never by bare fields: what a line lacks,
 * such as a product that left the catalog, would be looked for in the line around it.
 */
function matches({ skus, categories, tags }: ProductNote, of: string): string | null {
  const field = (name: string) => `${of}.${name}`;
  const any = (name: string, among: readonly string[]) =>
    `count((${field(`product.${name}`)}) where (it in ${list(among)})) > 0`;
  const clauses = [
    ...(skus.length > 0 ? [`${field('sku')} in ${list(skus)}`] : []),
    ...(categories.length > 0
      ? [
          `${field('category')} in ${list(categories)}`,
          `${field('product.category')} in ${list(categories)}`,
          any('categories', categories),
        ]
      : []),
    ...(tags.length > 0 ? [any('tags', tags)] : []),
  ];
  return clauses.length === 0 ? null : `(${clauses.join(' or ')})`;
}

function statusHolds({ statuses }: ProductNote): string[] {
  return statuses.length === 0
    ? []
    : [`lower(order.status) in ${list(statuses.map((one) => one.toLowerCase()))}`];
}

/** The condition under which an order mail shows a note, once however many lines ask for it. */
export function noteHolds(note: ProductNote, lines = 'order.lines'): string {
  const match = matches(note, 'it');
  const asked = match === null ? [] : [`count((${lines}) where ${match}) > 0`];
  return [...statusHolds(note), ...asked].join(' and ') || 'true';
}

/** The condition under which a note stands below a line: below the first that asks for it. */
export function noteHoldsAtLine(note: ProductNote, line: string, lines: string): string {
  const match = matches(note, line);
  const before = matches(note, 'it');
  const asked =
    match === null || before === null
      ? ['loop.last']
      : [match, `count((first(${lines}, loop.position - 1)) where ${before}) = 0`];
  return [...statusHolds(note), ...asked].join(' and ');
}

/** What a note is called where it has no title: by its first words. */
export const noteTitle = ({ title, text }: ProductNote): string =>
  title || richGist(text) || 'Without words';

/** Whether a note goes with a product of a catalog. */
export function noteGoesWith(
  { skus, categories, tags }: ProductNote,
  product: { sku?: unknown; category?: unknown; categories?: unknown; tags?: unknown },
): boolean {
  const among = (names: readonly string[], value: unknown): boolean =>
    Array.isArray(value)
      ? value.some((one) => among(names, one))
      : typeof value === 'string' && names.includes(value);
  return (
    among(skus, product.sku) ||
    among(categories, product.category) ||
    among(categories, product.categories) ||
    among(tags, product.tags)
  );
}

/** Words with merge tags as paragraphs; tags that cannot be read stay words. */
function paragraphs(words: string): RichText {
  const lines = words.split(/\n+/).filter((line) => line.trim() !== '');
  const inlines = (line: string): Inline[] => {
    const parsed = parsedRunning(line);
    if (!parsed.ok) return [{ type: 'text', text: line }];
    return parsed.value.flatMap((s): Inline[] => {
      if (s.type === 'tag') return [{ type: 'tag', attrs: { formula: s.source } }];
      return s.text === '' ? [] : [{ type: 'text', text: s.text }];
    });
  };
  const content = lines.map((line) => ({ type: 'paragraph' as const, content: inlines(line) }));
  return { type: 'doc', content: content.length > 0 ? content : [{ type: 'paragraph' }] };
}

/** A note that came from a source, where a row is about one product or category. */
export function noteOfRow(row: Record<string, unknown>): ProductNote {
  const text = (name: string) => {
    const value = row[name];
    return typeof value === 'string' || typeof value === 'number' ? String(value) : '';
  };
  const about = text('about');
  const statuses = text('status').split(/[,|]/);
  return {
    ...EMPTY_NOTE,
    title: text('title'),
    text: paragraphs(text('words')),
    image: text('image'),
    link: text('link'),
    skus: [about],
    categories: [about],
    statuses: statuses.map((one) => one.trim()).filter((one) => one !== ''),
  };
}
