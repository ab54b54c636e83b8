import type { ImportMode } from '@carafe/contract';
import type { FileSettings } from '@carafe/core/intake';

/** What is asked of a file that is imported: how it is read, and what becomes of rows it does not have. */
export interface Asked {
  settings: FileSettings;
  mode: ImportMode;
  raiseConsent: boolean;
}
