import type { NoteProducts, NotesOfShop } from '@carafe/contract';
import { noteGoesWith, noteTitle, type NotePlace, type ProductNote } from '@carafe/core/library';
import { walkNodes, type Template } from '@carafe/core/template';
import { versionOf } from '../http/version';
import type { Job } from '../jobs/jobs';
import { usersByName, type UserParts } from '../templates/users';
import { notesOf, type LibraryParts } from './shopLibrary';

export interface NoteProductsTask {
  shop: string;
  /** Words that a product has in its name, SKU or category. */
  q: string;
  /** Those of one note, by its place among the notes of the shop. */
  note?: number | undefined;
  /** Those without any. */
  without: boolean;
  offset: number;
  limit: number;
}
/** What is told of product notes. A shop may have a hundred thousand products: they are looked through by a thread. */
export interface NoteLookJobs {
  notes: Job<{ shop: string }, NotesOfShop>;
  noteProducts: Job<NoteProductsTask, NoteProducts>;
}
export type NoteParts = LibraryParts & UserParts;

const SAMPLE = 5;
/** So many values are offered to choose from. */
const MOST_VALUES = 300;
const USUAL_STATUSES = ['Received', 'Being packed', 'Sent', 'Complete', 'Cancelled'];

interface Product {
  sku?: unknown;
  name?: unknown;
  category?: unknown;
  categories?: unknown;
  tags?: unknown;
}

/** The products of a shop, one after the other. */
function* productsOf({ sources, entries }: NoteParts, shop: string): Generator<Product> {
  for (const { id } of sources.feeding('catalog', shop))
    for (const record of entries.records(id)) yield JSON.parse(record) as Product;
}

const textOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';
const nameOf = ({ name, sku }: Product): string => textOf(name) || textOf(sku);
const listed = (value: unknown): unknown[] => (Array.isArray(value) ? value : [value]);

const isGeneral = ({ skus, categories, tags }: ProductNote): boolean =>
  skus.length + categories.length + tags.length === 0;
const goesWith = (note: ProductNote, product: Product): boolean =>
  isGeneral(note) || noteGoesWith(note, product);

/** The places that a template has slots for. */
function slotsIn(template: Template): Set<NotePlace> {
  const places = new Set<NotePlace>();
  walkNodes(template, ({ node }) => {
    if (node.kind === 'notes') places.add(node.place);
    if (node.kind === 'lines' && node.notes) places.add('line');
  });
  return places;
}

/** The notes of a shop, each with the products that have it, and what products can be chosen by. */
export function tellNotes(parts: NoteParts, shop: string): NotesOfShop {
  const found = notesOf(parts, shop);
  const having = found.map(() => ({ products: 0, sample: [] as string[] }));
  const without = { count: 0, sample: [] as string[] };
  const categories = new Set<unknown>();
  const tags = new Set<unknown>();
  for (const product of productsOf(parts, shop)) {
    let isWithout = true;
    found.forEach(({ note }, i) => {
      const own = having[i];
      if (!own || !goesWith(note, product)) return;
      isWithout = false;
      own.products++;
      if (own.sample.length < SAMPLE) own.sample.push(nameOf(product));
    });
    if (isWithout) {
      without.count++;
      if (without.sample.length < SAMPLE) without.sample.push(nameOf(product));
    }
    for (const one of [product.category, ...listed(product.categories)]) categories.add(one);
    for (const one of listed(product.tags)) tags.add(one);
  }
  const values = (all: ReadonlySet<unknown>) =>
    [...all]
      .filter((one) => typeof one === 'string')
      .sort()
      .slice(0, MOST_VALUES);
  const slots = usersByName(parts, shop, slotsIn);
  return {
    notes: found.map(({ id, source, note }, i) => ({
      ...{ id, version: versionOf(note), source, note, products: 0, sample: [] },
      ...having[i],
      shown_in: slots.get(note.place) ?? [],
    })),
    without,
    ...{ categories: values(categories), tags: values(tags), statuses: USUAL_STATUSES },
  };
}

/** Some products of a shop with the notes that go with each, in the order of the catalog. */
export function noteProducts(parts: NoteParts, task: NoteProductsTask): NoteProducts {
  const { shop, q, note: asked, without, offset, limit } = task;
  const notes = notesOf(parts, shop).map(({ note }) => note);
  const only = asked === undefined ? undefined : notes[asked];
  if (asked !== undefined && only === undefined) return { total: 0, products: [] };
  const words = q.trim().toLowerCase();
  const products: NoteProducts['products'] = [];
  let total = 0;
  for (const product of productsOf(parts, shop)) {
    const { sku, category } = product;
    const told = { sku: textOf(sku), name: nameOf(product), category: textOf(category) };
    if (!`${told.name} ${told.sku} ${told.category}`.toLowerCase().includes(words)) continue;
    if (only && !goesWith(only, product)) continue;
    const own =
      without || total < offset + limit ? notes.filter((one) => goesWith(one, product)) : [];
    if (without && own.length > 0) continue;
    if (total >= offset && total < offset + limit)
      products.push({ ...told, notes: own.map(noteTitle) });
    total++;
  }
  return { total, products };
}
