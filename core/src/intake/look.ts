import { refuseBinary } from '../formats/binary';
import { columnNames, readCsv } from '../formats/csv';
import { detectFormat, type Format } from '../formats/detect';
import type { Dialect } from '../formats/dialect';
import { decode, detectEncoding, type Encoding } from '../formats/encoding';
import { FormatError } from '../formats/formatError';
import type { ListFound } from '../formats/json';
import { readNdjsonLine } from '../formats/ndjson';
import { sniffDialect } from '../formats/sniff';
import type { Sample } from './columns';
import { reuseMapping } from './mapping';
import { cellsOf, columnsOf, readDocument } from './records';
import type { FileSettings, GivenSettings } from './settings';
import { suggestMapping } from './suggest';
import type { Target } from './targets';

/** So many rows are looked at to find out what the columns hold. */
const SAMPLE_ROWS = 1000;
const PLAIN: Dialect = { delimiter: ',', quote: '"', header: true };

/** What the beginning of a file shows. */
export interface Look extends Sample {
  settings: FileSettings;
  lists: ListFound[];
}

const isFields = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function lookAtTable(text: string, dialect: Dialect, isWhole: boolean): Sample {
  let rows: string[][];
  try {
    rows = readCsv(text, dialect, SAMPLE_ROWS + 1);
  } catch (error) {
    // Where only the beginning is there, the last row may be cut in the middle of a quoted cell.
    const end = text.lastIndexOf('\n');
    if (isWhole || !(error instanceof FormatError) || end < 0) throw error;
    rows = readCsv(text.slice(0, lastWholeRow(text)), dialect, SAMPLE_ROWS + 1);
  }
  const [first] = rows;
  if (!first) throw new FormatError('This file is empty.');
  const columns = columnNames(first, dialect.header);
  return { columns, rows: rows.slice(dialect.header ? 1 : 0, SAMPLE_ROWS + 1) };
}

/** The end of the last row that cannot lie inside a quote: an even number of quotes stands before it. */
function lastWholeRow(text: string): number {
  let quotes = 0;
  let end = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 34) quotes++;
    else if (code === 10 && quotes % 2 === 0) end = i;
  }
  return end;
}

function lookAtLines(text: string, isWhole: boolean): Sample {
  const lines = text.split('\n');
  if (!isWhole) lines.pop();
  const records: Record<string, unknown>[] = [];
  for (const [i, line] of lines.slice(0, SAMPLE_ROWS).entries()) {
    const read = readNdjsonLine(line.replace(/\r$/, ''), i + 1);
    if (read?.ok && isFields(read.value)) records.push(read.value);
  }
  if (records.length === 0) throw new FormatError('No line of this file is a JSON record.');
  const columns = columnsOf(records);
  return { columns, rows: records.map((record) => cellsOf(record, columns)) };
}

/**
 * Finds out how a file is written and which column is what; what is given by hand holds. `isWhole`
 * says whether `bytes` is all of it: only tables and NDJSON can be told from their beginning.
 * Throws a FormatError where it cannot be read at all.
 */
export function lookAt(
  bytes: Uint8Array,
  target: Target,
  given: GivenSettings = {},
  isWhole = true,
): Look {
  if (bytes.length === 0) throw new FormatError('This file is empty.');
  refuseBinary(bytes);
  const encoding: Encoding = given.encoding ?? detectEncoding(bytes);
  const text = decode(bytes, encoding);
  if (isWhole && text.trim() === '') throw new FormatError('This file is empty.');
  const format: Format = given.format ?? detectFormat(text.slice(0, 100_000));
  const dialect =
    given.dialect ?? (format === 'table' ? sniffDialect(text.slice(0, 200_000)) : PLAIN);
  let sample: Sample;
  if (format === 'table') sample = lookAtTable(text, dialect, isWhole);
  else if (format === 'ndjson') sample = lookAtLines(text, isWhole);
  else {
    const { records, ...document } = readDocument(text, format, target.id, given.pointer);
    const columns = columnsOf(records.slice(0, SAMPLE_ROWS));
    return lookAtRecords({ ...document, format, encoding, columns, records }, target, given);
  }
  return lookFrom(sample, { format, encoding, dialect, pointer: '', lists: [] }, target, given);
}

interface Found {
  format: Format;
  encoding: Encoding;
  dialect: Dialect;
  pointer: string;
  lists: ListFound[];
}

/** A file of more columns is no table that anybody maps by hand. */
const MOST_COLUMNS = 2_000;

function lookFrom(
  sample: Sample,
  { lists, ...found }: Found,
  target: Target,
  given: GivenSettings,
): Look {
  const { length } = sample.columns;
  if (length > MOST_COLUMNS)
    throw new FormatError(
      `This file has ${length.toLocaleString('en-GB')} columns; at most ${MOST_COLUMNS.toLocaleString('en-GB')} can be read. Leave out the ones you do not need.`,
    );
  const suggested = suggestMapping(sample, target);
  const settings: FileSettings = {
    ...found,
    mapping: given.mapping ? reuseMapping(given.mapping, suggested) : suggested,
    consented_only: given.consented_only ?? false,
  };
  return { ...sample, settings, lists };
}

/** A document that was read whole, with its first records. */
export interface DocumentRead extends Omit<Found, 'dialect'> {
  columns: string[];
  records: readonly Record<string, unknown>[];
}

/** The same for a document that was read already. */
export function lookAtRecords(
  { columns, records, ...found }: DocumentRead,
  target: Target,
  given: GivenSettings = {},
): Look {
  const rows = records.slice(0, SAMPLE_ROWS).map((record) => cellsOf(record, columns));
  return lookFrom({ columns, rows }, { ...found, dialect: given.dialect ?? PLAIN }, target, given);
}

/** How a file is written where it has to be read whole to be looked at; else null. */
export function wholeFormatOf(
  beginning: Uint8Array,
  given: GivenSettings = {},
): { format: Exclude<Format, 'table' | 'ndjson'>; encoding: Encoding } | null {
  refuseBinary(beginning);
  const encoding = given.encoding ?? detectEncoding(beginning);
  const format = given.format ?? detectFormat(decode(beginning, encoding).slice(0, 100_000));
  return format === 'table' || format === 'ndjson' ? null : { format, encoding };
}
