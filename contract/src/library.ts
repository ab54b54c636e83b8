import { NamedFormula, ProductNote } from '@carafe/core/library';
import { z } from 'zod';
import { endpoint, OfVersion } from './endpoint';
import { Recipient } from './shops';
import { Paging } from './sources';

const Users = z.array(z.object({ id: z.string(), name: z.string() }));

const StoredFormula = z.object({
  id: z.string(),
  version: z.string(),
  formula: NamedFormula,
  /** The templates that use it. */
  used_by: Users,
});
export type StoredFormula = z.infer<typeof StoredFormula>;

const StoredNote = z.object({
  /** Null where it came from a source. */
  id: z.string().nullable(),
  version: z.string(),
  note: ProductNote,
  /** The source that it came from. */
  source: z.object({ id: z.string(), name: z.string() }).nullable(),
  /** How many products it goes with, and some of their names. */
  products: z.number(),
  sample: z.array(z.string()),
  /** The templates with a slot for it. */
  shown_in: Users,
});
export type StoredNote = z.infer<typeof StoredNote>;

export const NotesOfShop = z.object({
  notes: z.array(StoredNote),
  /** Products that no note goes with. */
  without: z.object({ count: z.number(), sample: z.array(z.string()) }),
  /** What products can be chosen by. */
  categories: z.array(z.string()),
  tags: z.array(z.string()),
  statuses: z.array(z.string()),
});
export type NotesOfShop = z.infer<typeof NotesOfShop>;

/** Products of a shop with the notes that go with each. */
export const NoteProducts = z.object({
  total: z.number(),
  products: z.array(
    z.object({
      sku: z.string(),
      name: z.string(),
      category: z.string(),
      /** What the notes are called. */
      notes: z.array(z.string()),
    }),
  ),
});
export type NoteProducts = z.infer<typeof NoteProducts>;

/** Which products are asked for: with a note, by its place among the notes of the shop, or without any; else all. */
const NoteProductsAsked = Paging.extend({
  q: z.string().max(200).default(''),
  note: z.coerce.number().int().min(0).optional(),
  without: z.stringbool().default(false),
});

/** What a formula gives for some people. */
export const Samples = z.object({
  of: z.number(),
  blank: z.number(),
  people: z.array(z.object({ recipient: Recipient, text: z.string() })),
});
export type Samples = z.infer<typeof Samples>;

export const libraryEndpoints = {
  listFormulas: endpoint({
    method: 'GET',
    path: '/shops/:shop/formulas',
    summary: 'The named formulas of a shop',
    answer: z.object({ formulas: z.array(StoredFormula) }),
  }),
  addFormula: endpoint({
    method: 'POST',
    path: '/shops/:shop/formulas',
    summary: 'A formula with a name',
    body: NamedFormula,
    answer: StoredFormula,
    status: 201,
  }),
  changeFormula: endpoint({
    method: 'PUT',
    path: '/formulas/:id',
    summary: 'Change a named formula, everywhere it is used',
    query: OfVersion,
    body: NamedFormula,
    answer: StoredFormula,
  }),
  deleteFormula: endpoint({
    method: 'DELETE',
    path: '/formulas/:id',
    summary: 'Delete a named formula that nothing uses',
    answer: null,
  }),
  samples: endpoint({
    method: 'POST',
    path: '/shops/:shop/samples',
    summary: 'What a formula gives for some people, the worst among them, and for how many nothing',
    body: z.strictObject({ formula: z.string().max(4000) }),
    answer: Samples,
  }),
  listNotes: endpoint({
    method: 'GET',
    path: '/shops/:shop/notes',
    summary: 'The product notes of a shop, with the products that have them',
    answer: NotesOfShop,
  }),
  noteProducts: endpoint({
    method: 'GET',
    path: '/shops/:shop/notes/products',
    summary:
      'The products of a shop, with the notes that go with each: all, those of one note, or those without any',
    query: NoteProductsAsked,
    answer: NoteProducts,
  }),
  addNote: endpoint({
    method: 'POST',
    path: '/shops/:shop/notes',
    summary: 'A product note',
    body: ProductNote,
    answer: z.object({ id: z.string(), version: z.string() }),
    status: 201,
  }),
  changeNote: endpoint({
    method: 'PUT',
    path: '/notes/:id',
    summary: 'Change a product note',
    query: OfVersion,
    body: ProductNote,
    answer: z.object({ id: z.string(), version: z.string() }),
  }),
  deleteNote: endpoint({
    method: 'DELETE',
    path: '/notes/:id',
    summary: 'Delete a product note',
    answer: null,
  }),
};
