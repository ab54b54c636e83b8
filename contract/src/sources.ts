import { z } from 'zod';

export const SourceKind = z.enum(['file', 'address', 'events', 'typed']);
export type SourceKind = z.infer<typeof SourceKind>;

export const SourceTarget = z.enum([
  'catalog',
  'people',
  'carts',
  'orders',
  'events',
  'feed',
  'coupons',
  'notes',
]);
export type SourceTarget = z.infer<typeof SourceTarget>;

/** Fresh, older than it may be, the last try failed, never filled, or holding a file back for a look. */
export const SourceStatus = z.enum(['fresh', 'stale', 'failed', 'never', 'waiting']);
export type SourceStatus = z.infer<typeof SourceStatus>;

/** A source as it is listed. */
export interface SourceSummary {
  id: string;
  /** Null serves every shop. */
  shop: string | null;
  name: string;
  kind: SourceKind;
  target: SourceTarget;
  /** What formulas call it: catalog.<slot>, feeds.<slot>. */
  slot: string;
  address: string | null;
  every_minutes: number | null;
  fresh_hours: number;
  status: SourceStatus;
  rows: number;
  last_import_at: string | null;
  next_fetch_at: string | null;
  /** Why the last try failed. */
  failure: string | null;
  /** An import that waits for somebody to look at it. */
  waiting_import: string | null;
  /** How its files are read, once one was taken; core's FileSettings. */
  settings: unknown;
}

const Name = z.string().trim().min(1).max(200);
/** A name that formulas can say without brackets. */
const Slot = z
  .string()
  .trim()
  .max(60)
  .regex(/^[\p{L}_][\p{L}\p{Nd}_]*$/u, 'is letters, digits and _, beginning with a letter');

export const CreateSource = z.strictObject({
  shop: z.string().max(100).nullable(),
  name: Name,
  kind: SourceKind,
  target: SourceTarget,
  slot: Slot,
  address: z.string().trim().max(2000).optional(),
  every_minutes: z.number().int().min(5).max(43_200).nullable().optional(),
});
export type CreateSource = z.infer<typeof CreateSource>;

export const ChangeSource = z.strictObject({
  name: Name.optional(),
  slot: Slot.optional(),
  address: z.string().trim().max(2000).optional(),
  every_minutes: z.number().int().min(5).max(43_200).nullable().optional(),
  fresh_hours: z.number().int().min(1).max(100_000).optional(),
});
export type ChangeSource = z.infer<typeof ChangeSource>;

export const ImportMode = z.enum(['whole', 'part']);
export type ImportMode = z.infer<typeof ImportMode>;

/** What an import does, in rows. */
export interface ImportCounts {
  /** Rows of the file. */
  read: number;
  new: number;
  changed: number;
  unchanged: number;
  gone: number;
  rejected: number;
  /** People without consent, where only those with it are taken. */
  left_out: number;
  /** People whose "no" stands, though the file says yes. */
  consent_kept: number;
}

export type ImportState =
  'looking' | 'checking' | 'checked' | 'applied' | 'failed' | 'stopped' | 'undone';

/** A file on its way into a source. */
export interface ImportSummary {
  id: string;
  source: string;
  state: ImportState;
  name: string;
  bytes: number;
  mode: ImportMode;
  counts: ImportCounts | null;
  message: string | null;
  made_at: string;
  applied_at: string | null;
  /** Rows done so far, while it is checked. */
  progress: number | null;
  /** Whether it is the one that can be gone back from. */
  undoable: boolean;
}

/** What the beginning of a file shows; settings are core's FileSettings. */
export interface ImportLook {
  import: ImportSummary;
  settings: unknown;
  columns: string[];
  rows: unknown[][];
  lists: { pointer: string; length: number; fields: string[] }[];
  /** Why it cannot be read as it is set; the settings can be changed. */
  problem: string | null;
}

export const LookAgain = z.strictObject({ settings: z.unknown() });
export const CheckImport = z.strictObject({
  settings: z.unknown(),
  mode: ImportMode,
  /** Lets this one file give consent again to people who took it back. */
  raise_consent: z.boolean().default(false),
});
export type CheckImport = z.input<typeof CheckImport>;

export const ImportOutcome = z.enum(['new', 'changed', 'unchanged', 'gone', 'rejected']);
export type ImportOutcome = z.infer<typeof ImportOutcome>;

/** One row of an import with what becomes of it. */
export interface ImportRow {
  line: number | null;
  key: string | null;
  /** As it will be stored. */
  record: Record<string, unknown> | null;
  /** As it stands now. */
  before: Record<string, unknown> | null;
  /** A rejected row: its cells, and why. */
  cells: unknown[] | null;
  problems: { column: string; message: string }[];
}

export interface RowPage {
  total: number;
  rows: { id: number; key: string; record: Record<string, unknown> }[];
}

/** What a source holds, field by field; fields are core's FieldProfile. */
export interface SourceProfile {
  rows: number;
  fields: unknown[];
  /** Templates that read this source, with the fields each names. */
  used_by: { id: string; name: string; fields: string[] }[];
}

/** What changed on the server, as it happens. */
export type LiveNews =
  /** The first that a page hears: from here on it is told. */
  | { type: 'here' }
  | { type: 'people'; shop: string; ids: number[] }
  | { type: 'world'; shop: string | null }
  | { type: 'source'; id: string }
  | { type: 'import'; id: string; source: string; state: ImportState; progress: number | null };

export interface EventsTaken {
  taken: number;
  known: number;
  refused: { place: number; message: string }[];
}
