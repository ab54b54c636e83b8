import { FormatError } from './formatError';
import { readJson } from './json';

/** A line of NDJSON as it was read, or why it could not be. */
export type NdjsonLine =
  { ok: true; value: unknown; line: number } | { ok: false; line: number; message: string };

/** Reads one line; null for an empty one. What is nested too deep is refused as in other JSON. */
export function readNdjsonLine(text: string, line: number): NdjsonLine | null {
  if (text.trim() === '') return null;
  try {
    return { ok: true, value: readJson(text), line };
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    // The line of a line is always the first.
    const said = error.message.replace(/^Line 1: /, '');
    const lowered = said.charAt(0).toLowerCase() + said.slice(1);
    const message =
      lowered === 'this is not JSON.' ? `Line ${line} is not JSON.` : `Line ${line}: ${lowered}`;
    return { ok: false, line, message };
  }
}

/** Reads all lines of a text. */
export function readNdjson(text: string): NdjsonLine[] {
  return text
    .split(/\r?\n/)
    .map((line, i) => readNdjsonLine(line, i + 1))
    .filter((line) => line !== null);
}
