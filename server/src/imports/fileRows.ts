import { once } from 'node:events';
import { createReadStream } from 'node:fs';
import { csvOptions, csvProblem, FormatError, readNdjsonLine } from '@carafe/core/formats';
import { cellsOf, type FileSettings, type Target } from '@carafe/core/intake';
import { parse, type Parser } from 'csv-parse';
import { lookAtFile } from './lookAtFile';
import { unfold, unfoldedRecords } from './unfold';

/** A row of a file: the line that it begins on, and its cells. `wrong` where the line is no record. */
export interface FileRow {
  line: number;
  cells: readonly unknown[];
  wrong?: string;
}

const BATCH = 512;

async function* textOf(file: string, encoding: FileSettings['encoding']): AsyncGenerator<string> {
  const decoder = new TextDecoder(encoding);
  for await (const chunk of createReadStream(file, { highWaterMark: 1 << 18 }))
    yield decoder.decode(chunk as Buffer, { stream: true });
  yield decoder.decode();
}

/** Feeds a parser text in another encoding than it reads by itself. */
async function feed(parser: Parser, file: string, encoding: FileSettings['encoding']) {
  try {
    for await (const text of textOf(file, encoding))
      if (!parser.write(text)) await once(parser, 'drain');
    parser.end();
  } catch (error) {
    parser.destroy(error as Error);
  }
}

/** How many line ends lie inside the cells of a row. */
function linesInside(cells: readonly string[]): number {
  let lines = 0;
  for (const cell of cells)
    for (let i = cell.indexOf('\n'); i >= 0; i = cell.indexOf('\n', i + 1)) lines++;
  return lines;
}

/** What keeps a row from being taken as it stands: letters or cells that are not there. */
function unread(row: readonly string[], width: number): { wrong?: string } {
  if (row.length < width)
    return {
      wrong: `This row has ${row.length} ${row.length === 1 ? 'cell' : 'cells'}, and the table ${width} columns; perhaps it is cut off.`,
    };
  for (const cell of row)
    if (cell.includes('\uFFFD'))
      return {
        wrong:
          'It contains a character that is not valid in the file’s encoding. Choose another encoding.',
      };
  return {};
}

async function* tableRows(file: string, settings: FileSettings): AsyncGenerator<FileRow[]> {
  // Empty lines are passed over here, since they count as lines.
  const parser = parse({ ...csvOptions(settings.dialect), skip_empty_lines: false });
  let isOver = false;
  let failure: unknown;
  let wake: () => void = () => undefined;
  parser.on('readable', () => wake());
  parser.once('end', () => {
    isOver = true;
    wake();
  });
  parser.once('error', (error) => {
    failure = error;
    wake();
  });
  const source = createReadStream(file, { highWaterMark: 1 << 18 });
  if (settings.encoding === 'utf-8') source.pipe(parser);
  else {
    source.destroy();
    void feed(parser, file, settings.encoding);
  }
  let batch: FileRow[] = [];
  let isHeader = settings.dialect.header;
  let width = 0;
  let line = 1 + (settings.dialect.skip ?? 0);
  try {
    while (!isOver && failure === undefined) {
      // The hot loop of an import: rows are taken from the parser's buffer without waiting for each.
      for (let row; (row = parser.read() as string[] | null) !== null;) {
        const at = line;
        line += 1 + linesInside(row);
        if (row.length === 1 && row[0]?.trim() === '') continue;
        if (isHeader) {
          isHeader = false;
          width = row.length;
          continue;
        }
        width ||= row.length;
        batch.push({ line: at, cells: row, ...unread(row, width) });
        if (batch.length === BATCH) {
          yield batch;
          batch = [];
        }
      }
      // What comes of reading may be that all is read: then nothing more is waited for.
      if (!isOver && failure === undefined) await new Promise<void>((done) => (wake = done));
    }
    if (failure !== undefined) throw csvProblem(failure);
  } finally {
    source.destroy();
    parser.destroy();
  }
  yield batch;
}

/** Lines of NDJSON longer than this are refused. */
const MAX_LINE = 4_000_000;

/** Lines of a file with their numbers, in batches, the file never whole in memory. */
export async function* linesOf(
  file: string,
  encoding: FileSettings['encoding'],
): AsyncGenerator<{ line: number; text: string }[]> {
  let rest = '';
  let line = 0;
  for await (const chunk of textOf(file, encoding)) {
    const parts = (rest + chunk).split('\n');
    rest = parts.pop() ?? '';
    if (rest.length > MAX_LINE)
      throw new FormatError(
        `Line ${line + parts.length + 1} is longer than ${MAX_LINE / 1e6} MB. This is not NDJSON.`,
        line + parts.length + 1,
      );
    yield parts.map((text) => ({ line: ++line, text }));
  }
  if (rest.trim() !== '') yield [{ line: ++line, text: rest }];
}

async function* ndjsonRows(
  file: string,
  { encoding }: FileSettings,
  columns: readonly string[],
): AsyncGenerator<FileRow[]> {
  for await (const lines of linesOf(file, encoding))
    yield lines.flatMap(({ line, text }): FileRow[] => {
      const read = readNdjsonLine(text.replace(/\r$/, ''), line);
      if (read === null) return [];
      if (!read.ok) return [{ line, cells: [text.slice(0, 500)], wrong: read.message }];
      const { value } = read;
      if (typeof value !== 'object' || value === null || Array.isArray(value))
        return [{ line, cells: [text.slice(0, 500)], wrong: `Line ${line} is not a JSON record.` }];
      return [{ line, cells: cellsOf(value as Record<string, unknown>, columns) }];
    });
}

/** What of a file is known before its rows are read. */
export interface FileHead {
  columns: string[];
  /** What a feed says of itself. */
  meta: Record<string, unknown>;
}

type Whole = Exclude<FileSettings['format'], 'table' | 'ndjson'>;
const isWhole = (format: FileSettings['format']): format is Whole =>
  format !== 'table' && format !== 'ndjson';

/** The columns of a file as a whole: a table's header, else the fields of its records. */
export async function headOfFile(
  file: string,
  settings: FileSettings,
  target: Target,
): Promise<FileHead> {
  const { format } = settings;
  if (isWhole(format)) return unfold(file, { ...settings, format }, target.id);
  return { columns: (await lookAtFile(file, target, settings)).columns, meta: {} };
}

/** How the rows of a file are read: here, or in a thread beside. */
export type ReadRows = typeof rowsOf;

/**
 * The rows of a file in batches, never all in memory: documents that are read whole were unfolded
 * before. Throws a FormatError where the file cannot be read on.
 */
export async function* rowsOf(
  file: string,
  settings: FileSettings,
  columns: readonly string[],
): AsyncGenerator<FileRow[]> {
  if (settings.format === 'table') yield* tableRows(file, settings);
  else if (settings.format === 'ndjson') yield* ndjsonRows(file, settings, columns);
  else {
    let line = 0;
    for await (const records of unfoldedRecords(file))
      yield records.map((record) => ({ line: ++line, cells: cellsOf(record, columns) }));
  }
}
