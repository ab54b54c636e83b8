import { createHash } from 'node:crypto';
import { Refusal } from './errors';

/** A mark of a document as it is stored: another document, another mark. */
export const versionOf = (document: unknown): string =>
  createHash('sha256').update(JSON.stringify(document)).digest('base64url').slice(0, 16);

/** Refuses a change to a document that is no longer as it was read; `what` begins the sentence: “This rule”. */
export function refuseStale(document: unknown, version: string, what: string): void {
  if (versionOf(document) !== version)
    throw new Refusal(
      409,
      `${what} was changed elsewhere in the meantime. Nothing was saved: load the page again to see what it is now, and change that.`,
    );
}
