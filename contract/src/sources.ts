import { TARGETS } from '@carafe/core/intake';
import type { FieldProfile } from '@carafe/core/shape';
import { z } from 'zod';
import { carried, endpoint } from './endpoint';
import { ImportLook, ImportSummary } from './imports';

export const SourceKind = z.enum(['file', 'address', 'events', 'typed']);
export type SourceKind = z.infer<typeof SourceKind>;

export const SourceTarget = z.enum(TARGETS);
export type SourceTarget = z.infer<typeof SourceTarget>;

/** Fresh, older than it may be, the last try failed, never filled, or holding a file back for a look. */
export const SourceStatus = z.enum(['fresh', 'stale', 'failed', 'never', 'waiting']);
export type SourceStatus = z.infer<typeof SourceStatus>;

/** A source as it is listed. */
export const SourceSummary = z.object({
  id: z.string(),
  /** Null serves every shop. */
  shop: z.string().nullable(),
  name: z.string(),
  kind: SourceKind,
  target: SourceTarget,
  /** What formulas call it: catalog.<name>, feeds.<name>. */
  formula_name: z.string(),
  address: z.string().nullable(),
  every_minutes: z.number().nullable(),
  fresh_hours: z.number(),
  status: SourceStatus,
  rows: z.number(),
  last_import_at: z.string().nullable(),
  next_fetch_at: z.string().nullable(),
  /** Why the last try failed. */
  failure: z.string().nullable(),
  /** An import that waits for somebody to look at it. */
  waiting_import: z.string().nullable(),
  /** How its files are read, once one was imported; core's FileSettings. */
  settings: z.unknown(),
});
export type SourceSummary = z.infer<typeof SourceSummary>;

const Name = z
  .string()
  .trim()
  .min(1, 'A source needs a name.')
  .max(200, 'A name has at most 200 letters.');
/** A name that formulas can say without brackets. */
const FormulaName = z
  .string()
  .trim()
  .max(60, 'A name in formulas has at most 60 letters.')
  .regex(
    /^[\p{L}_][\p{L}\p{Nd}_]*$/u,
    'A name in formulas is letters, digits and _, beginning with a letter.',
  );
const Address = z.string().trim().max(2000, 'An address has at most 2,000 letters.');
const Minutes = z
  .number()
  .int()
  .min(5, 'A source is fetched every five minutes at most.')
  .max(43_200, 'A source is fetched once a month at least.');

export const CreateSource = z.strictObject({
  shop: z.string().max(100).nullable(),
  name: Name,
  kind: SourceKind,
  target: SourceTarget,
  formula_name: FormulaName,
  address: Address.optional(),
  every_minutes: Minutes.nullable().optional(),
});
export type CreateSource = z.infer<typeof CreateSource>;

export const ChangeSource = z.strictObject({
  name: Name.optional(),
  formula_name: FormulaName.optional(),
  address: Address.optional(),
  every_minutes: Minutes.nullable().optional(),
  fresh_hours: z.number().int().min(1, 'At least one hour.').max(100_000).optional(),
});
export type ChangeSource = z.infer<typeof ChangeSource>;

const Row = z.object({
  id: z.number(),
  key: z.string(),
  record: z.record(z.string(), z.unknown()),
});
export const RowPage = z.object({ total: z.number(), rows: z.array(Row) });
export type RowPage = z.infer<typeof RowPage>;

export const Paging = z.object({
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});
export const RowQuery = Paging.extend({
  q: z.string().max(200).default(''),
  filter: z.string().max(4000).default(''),
  sort: z.string().max(200).optional(),
  descending: z.stringbool().default(false),
});
export type RowQuery = z.infer<typeof RowQuery>;

/** What a source holds, field by field. */
export const SourceProfile = z.object({
  rows: z.number(),
  fields: z.array(carried<FieldProfile>('A field: kind, filled, distinct, range, commonest')),
  /** Templates that read this source, with the fields each names. */
  used_by: z.array(z.object({ id: z.string(), name: z.string(), fields: z.array(z.string()) })),
});
export type SourceProfile = z.infer<typeof SourceProfile>;

const FileName = z.object({ name: z.string().trim().max(300).default('') });

export const sourceEndpoints = {
  listSources: endpoint({
    method: 'GET',
    path: '/sources',
    summary: 'All sources with how they stand',
    answer: z.object({ sources: z.array(SourceSummary) }),
  }),
  createSource: endpoint({
    method: 'POST',
    path: '/sources',
    summary: 'A new source',
    body: CreateSource,
    answer: SourceSummary,
    status: 201,
  }),
  getSource: endpoint({
    method: 'GET',
    path: '/sources/:id',
    summary: 'A source with its files',
    answer: z.object({ source: SourceSummary, imports: z.array(ImportSummary) }),
  }),
  changeSource: endpoint({
    method: 'PATCH',
    path: '/sources/:id',
    summary: 'Change a source',
    body: ChangeSource,
    answer: SourceSummary,
  }),
  deleteSource: endpoint({
    method: 'DELETE',
    path: '/sources/:id',
    summary: 'Delete a source; it can be restored',
    answer: null,
  }),
  restoreSource: endpoint({
    method: 'POST',
    path: '/sources/:id/restore',
    summary: 'Bring a deleted source back',
    answer: SourceSummary,
  }),
  sourceRows: endpoint({
    method: 'GET',
    path: '/sources/:id/rows',
    summary: 'Rows of a source: searched, filtered by a formula, sorted',
    query: RowQuery,
    answer: RowPage,
  }),
  sourceProfile: endpoint({
    method: 'GET',
    path: '/sources/:id/profile',
    summary: 'What a source holds, field by field, and who reads it',
    answer: SourceProfile,
  }),
  uploadFile: endpoint({
    method: 'POST',
    path: '/sources/:id/file',
    summary: 'A file for a source; it is looked at and not yet imported',
    query: FileName,
    takesFile: true,
    answer: ImportLook,
    status: 201,
  }),
  fetchSource: endpoint({
    method: 'POST',
    path: '/sources/:id/fetch',
    summary: 'Fetch the address of a source now',
    answer: z.object({ look: ImportLook.nullable(), source: SourceSummary }),
  }),
  typeRows: endpoint({
    method: 'POST',
    path: '/sources/:id/typed',
    summary: 'Rows typed in by hand',
    body: z.strictObject({
      records: z
        .array(z.record(z.string(), z.unknown()))
        .min(1, 'Type at least one row.')
        .max(10_000, 'At most 10,000 rows can be typed in at once.'),
    }),
    answer: ImportSummary,
  }),
  deleteRow: endpoint({
    method: 'DELETE',
    path: '/sources/:id/rows/:key',
    summary: 'Delete a row that was typed in',
    answer: null,
  }),
};
