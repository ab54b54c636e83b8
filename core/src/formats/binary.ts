import { FormatError } from './formatError';

/** Files that are no text, by the bytes that they begin with, and what to do instead. */
const KINDS: readonly (readonly [readonly number[], string])[] = [
  [
    [0x50, 0x4b, 0x03, 0x04],
    'This is a packed file, such as a spreadsheet (.xlsx) or a ZIP. Save the sheet as CSV, or unpack the file, and bring that.',
  ],
  [
    [0xd0, 0xcf, 0x11, 0xe0],
    'This is a spreadsheet of an old kind (.xls). Save the sheet as CSV and bring that.',
  ],
  [[0x1f, 0x8b], 'This file is packed (gzip). Unpack it and bring what is in it.'],
  [[0x89, 0x50, 0x4e, 0x47], 'This is a picture (PNG), and no data.'],
  [[0xff, 0xd8, 0xff], 'This is a picture (JPEG), and no data.'],
  [[0x47, 0x49, 0x46, 0x38], 'This is a picture (GIF), and no data.'],
  [
    [0x25, 0x50, 0x44, 0x46],
    'This is a PDF. Export the table that is in it as CSV and bring that.',
  ],
  [[0x53, 0x51, 0x4c, 0x69, 0x74, 0x65], 'This is a database (SQLite). Export a table as CSV.'],
];

/** Throws a FormatError where a file is none of those that hold data as text. */
export function refuseBinary(bytes: Uint8Array): void {
  for (const [begin, message] of KINDS)
    if (begin.every((byte, i) => bytes[i] === byte)) throw new FormatError(message);
}
