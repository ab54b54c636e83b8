import { z } from 'zod';
import { endpoint } from './endpoint';

export const ImportMode = z.enum(['whole', 'part']);
export type ImportMode = z.infer<typeof ImportMode>;

/** What an import does, in rows. */
export const ImportCounts = z.object({
  /** Rows of the file. */
  read: z.number(),
  new: z.number(),
  changed: z.number(),
  unchanged: z.number(),
  gone: z.number(),
  rejected: z.number(),
  /** People without consent, where only those with it are imported. */
  left_out: z.number(),
  /** People whose "no" stands, though the file says yes. */
  consent_kept: z.number(),
});
export type ImportCounts = z.infer<typeof ImportCounts>;

export const ImportState = z.enum([
  'looking',
  'checking',
  'checked',
  'applying',
  'applied',
  'failed',
  'stopped',
  'undone',
]);
export type ImportState = z.infer<typeof ImportState>;

/** A file on its way into a source. */
export const ImportSummary = z.object({
  id: z.string(),
  source: z.string(),
  state: ImportState,
  name: z.string(),
  bytes: z.number(),
  mode: ImportMode,
  counts: ImportCounts.nullable(),
  message: z.string().nullable(),
  made_at: z.string(),
  applied_at: z.string().nullable(),
  /** Rows done so far, while it is checked or imported. */
  progress: z.number().nullable(),
  /** Whether it is the one that can be gone back from. */
  undoable: z.boolean(),
});
export type ImportSummary = z.infer<typeof ImportSummary>;

/** What the beginning of a file shows; settings are core's FileSettings. */
export const ImportLook = z.object({
  import: ImportSummary,
  settings: z.unknown(),
  columns: z.array(z.string()),
  rows: z.array(z.array(z.unknown())),
  lists: z.array(
    z.object({ pointer: z.string(), length: z.number(), fields: z.array(z.string()) }),
  ),
  /** Why it cannot be read as it is set; the settings can be changed. */
  problem: z.string().nullable(),
});
export type ImportLook = z.infer<typeof ImportLook>;

export const CheckImport = z.strictObject({
  settings: z.unknown(),
  mode: ImportMode,
  /** Lets this one file give consent again to people who took it back. */
  raise_consent: z.boolean().default(false),
});
export type CheckImport = z.input<typeof CheckImport>;

export const ImportOutcome = z.enum(['new', 'changed', 'unchanged', 'gone', 'rejected']);
export type ImportOutcome = z.infer<typeof ImportOutcome>;

const Fields = z.record(z.string(), z.unknown());
/** One row of an import with what becomes of it. */
export const ImportRow = z.object({
  line: z.number().nullable(),
  key: z.string().nullable(),
  /** As it will be stored. */
  record: Fields.nullable(),
  /** As it stands now. */
  before: Fields.nullable(),
  /** A rejected row: its cells, and why. */
  cells: z.array(z.unknown()).nullable(),
  problems: z.array(z.object({ column: z.string(), message: z.string() })),
});
export type ImportRow = z.infer<typeof ImportRow>;

export const importEndpoints = {
  getImport: endpoint({
    method: 'GET',
    path: '/imports/:id',
    summary: 'A file on its way',
    answer: ImportSummary,
  }),
  discardImport: endpoint({
    method: 'DELETE',
    path: '/imports/:id',
    summary: 'Discard a file that was not imported',
    answer: null,
  }),
  lookAtImport: endpoint({
    method: 'GET',
    path: '/imports/:id/look',
    summary: 'What a file shows, as it is set now',
    answer: ImportLook,
  }),
  lookAgain: endpoint({
    method: 'POST',
    path: '/imports/:id/look',
    summary: 'What a file shows, read by other settings',
    body: z.strictObject({ settings: z.unknown() }),
    answer: ImportLook,
  }),
  checkImport: endpoint({
    method: 'POST',
    path: '/imports/:id/check',
    summary: 'Begin to check a file row by row; how far it is comes as live updates',
    body: CheckImport,
    answer: ImportSummary,
    status: 202,
  }),
  stopImport: endpoint({
    method: 'POST',
    path: '/imports/:id/stop',
    summary: 'Stop checking',
    answer: ImportSummary,
    status: 202,
  }),
  importRows: endpoint({
    method: 'GET',
    path: '/imports/:id/rows',
    summary: 'Rows of a checked file by what becomes of them',
    query: z.object({
      outcome: ImportOutcome,
      offset: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(500).default(100),
    }),
    answer: z.object({ rows: z.array(ImportRow) }),
  }),
  applyImport: endpoint({
    method: 'POST',
    path: '/imports/:id/apply',
    summary: 'Import a checked file, all or nothing',
    answer: ImportSummary,
  }),
  undoImport: endpoint({
    method: 'POST',
    path: '/imports/:id/undo',
    summary: 'Go back to what was there before the last file',
    answer: ImportSummary,
  }),
};
