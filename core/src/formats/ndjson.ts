/** One line of NDJSON, or why it could not be read. */
export type NdjsonLine =
  { ok: true; value: unknown; line: number } | { ok: false; line: number; message: string };

/** Reads one line; blank lines give null. Never throws. */
export function readNdjsonLine(text: string, line: number): NdjsonLine | null {
  if (text.trim() === '') return null;
  try {
    return { ok: true, value: JSON.parse(text) as unknown, line };
  } catch (error) {
    return { ok: false, line, message: `Line ${line} is not JSON: ${(error as Error).message}.` };
  }
}

/** Reads all lines of a text. */
export function readNdjson(text: string): NdjsonLine[] {
  return text
    .split(/\r?\n/)
    .map((line, i) => readNdjsonLine(line, i + 1))
    .filter((line) => line !== null);
}
