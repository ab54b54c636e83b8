import {
  closeSync,
  createReadStream,
  existsSync,
  openSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { createInterface } from 'node:readline';
import {
  decode,
  FormatError,
  type Encoding,
  type Format,
  type ListFound,
} from '@carafe/core/formats';
import { columnsOf, readDocument, type TargetId } from '@carafe/core/intake';

/** Documents that must be read whole are refused past this size. */
const MAX_WHOLE = 200_000_000;
/** So many records are written and read at once; the first of them are the sample of a look. */
const BATCH = 1_000;

type WholeFormat = Exclude<Format, 'table' | 'ndjson'>;
type Fields = Record<string, unknown>;

/** What a document that is read whole turned out to hold; its records stand beside it, a line each. */
export interface Unfolded {
  format: WholeFormat;
  encoding: Encoding;
  /** The list that was asked for; null where it was found. */
  asked: string | null;
  pointer: string;
  columns: string[];
  lists: ListFound[];
  /** What a feed says of itself. */
  meta: Fields;
  count: number;
}

const headOf = (file: string) => `${file}.head`;
const recordsOf = (file: string) => `${file}.records`;

/** The files that reading a file leaves beside it. */
export const besides = (file: string): string[] => [headOf(file), recordsOf(file)];

function wholeOf(file: string): Buffer {
  if (statSync(file).size > MAX_WHOLE)
    throw new FormatError(
      `A document in this format must be read as a whole, and this one is larger than ${MAX_WHOLE / 1e6} MB. Send it as CSV or NDJSON.`,
    );
  return readFileSync(file);
}

function kept(file: string): Unfolded | null {
  if (!existsSync(headOf(file))) return null;
  return JSON.parse(readFileSync(headOf(file), 'utf8')) as Unfolded;
}

/**
 * Reads a document whole, once: its records are written beside it, a line each, and every later step
 * streams them from there. Throws a FormatError.
 */
export function unfold(
  file: string,
  given: { format: WholeFormat; encoding: Encoding; pointer?: string | undefined },
  target: TargetId,
): Unfolded {
  const { format, encoding, pointer: asked } = given;
  const known = kept(file);
  if (
    known?.format === format &&
    known.encoding === encoding &&
    (asked === undefined ? known.asked === null : asked === known.pointer)
  )
    return known;
  const read = readDocument(decode(wholeOf(file), encoding), format, target, asked);
  const { records, pointer, lists, feed } = read;
  rmSync(headOf(file), { force: true });
  const handle = openSync(recordsOf(file), 'w');
  try {
    for (let at = 0; at < records.length; at += BATCH)
      writeSync(
        handle,
        records
          .slice(at, at + BATCH)
          .map((record) => `${JSON.stringify(record)}\n`)
          .join(''),
      );
  } finally {
    closeSync(handle);
  }
  const unfolded: Unfolded = {
    ...{ format, encoding, pointer, lists },
    asked: asked ?? null,
    columns: columnsOf(records),
    meta: { ...feed },
    count: records.length,
  };
  // Written last: a head says that the records are whole.
  writeFileSync(headOf(file), JSON.stringify(unfolded));
  return unfolded;
}

/** The records of a document that was unfolded, in batches. */
export async function* unfoldedRecords(file: string): AsyncGenerator<Fields[]> {
  let batch: Fields[] = [];
  const input = createReadStream(recordsOf(file), 'utf8');
  for await (const line of createInterface({ input, crlfDelay: Number.POSITIVE_INFINITY })) {
    if (line !== '') batch.push(JSON.parse(line) as Fields);
    if (batch.length < BATCH) continue;
    yield batch;
    batch = [];
  }
  yield batch;
}
