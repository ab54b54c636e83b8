import type { ImportCounts, ImportMode } from '@carafe/contract';
import type { FileSettings, GivenSettings, Look, TargetId } from '@carafe/core/intake';
import type { Job } from '../jobs/jobs';

/** What checking a file needs to know; plain data, so that it can be sent to a thread. */
export interface CheckTask {
  file: string;
  staging: string;
  source: string;
  shop: string | null;
  target: TargetId;
  settings: FileSettings;
  mode: ImportMode;
  raiseConsent: boolean;
  /** ISO 8601. */
  now: string;
}

/** What importing a checked file needs to know. */
export interface ApplyTask {
  import: string;
  source: string;
  shop: string | null;
  target: TargetId;
  staging: string;
  settings: FileSettings;
  mode: ImportMode;
  /** ISO 8601. */
  now: string;
}

export interface UndoTask {
  import: string;
  source: string;
  shop: string | null;
  target: TargetId;
  /** How many rows the import added, taken off those that went. */
  rows: number;
  /** ISO 8601. */
  now: string;
}

/** What looking at a file needs to know. */
export interface LookTask {
  file: string;
  target: TargetId;
  settings: GivenSettings;
  /** Whether somebody has set this by hand; else the file may be written otherwise than the last one. */
  isSet: boolean;
}

/** Work on files that is done beside the server. */
export interface ImportJobs {
  look: Job<LookTask, Look>;
  check: Job<CheckTask, ImportCounts>;
  apply: Job<ApplyTask, null>;
  undo: Job<UndoTask, null>;
  recover: Job<{ now: string }, string[]>;
}

export function noCounts(): ImportCounts {
  return {
    read: 0,
    new: 0,
    changed: 0,
    unchanged: 0,
    gone: 0,
    rejected: 0,
    left_out: 0,
    consent_kept: 0,
  };
}
