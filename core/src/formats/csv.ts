import type { CsvError, Options } from 'csv-parse/sync';
import { parse } from 'csv-parse/sync';
import type { Dialect } from './dialect';
import { FormatError } from './formatError';

/** A row longer than this many bytes is refused: it is a quote that was never closed, or no table. */
const MAX_ROW = 4_000_000;

/** What csv-parse is told for a dialect; used by whole reading and by streams alike. */
export function csvOptions({ delimiter, quote, skip = 0 }: Dialect): Options {
  return {
    ...(skip > 0 && { from_line: skip + 1 }),
    delimiter,
    quote: quote === '' ? null : quote,
    bom: true,
    relax_column_count: true,
    // A 12" pot is a pot: a quote inside a bare cell is a letter.
    relax_quotes: true,
    skip_empty_lines: true,
    max_record_size: MAX_ROW,
    // Files come with mixed line ends.
    record_delimiter: ['\r\n', '\n', '\r'],
  };
}

/** Says in words what csv-parse found wrong, with the line. */
export function csvProblem(error: unknown): FormatError {
  const { code, lines, message } = error as Partial<CsvError> & Error;
  const at = typeof lines === 'number' ? lines : null;
  const where = at === null ? '' : `Line ${at}: `;
  switch (code) {
    case 'CSV_QUOTE_NOT_CLOSED':
      return new FormatError(
        `${where}a quote is opened and never closed; the file is cut off, or a cell holds a single quote mark.`,
        at,
      );
    case 'CSV_MAX_RECORD_SIZE':
      return new FormatError(
        `${where}one row is longer than ${MAX_ROW / 1_000_000} MB; a quote may never have been closed.`,
        at,
      );
    default:
      return new FormatError(`${where}this cannot be read as a table: ${message}`, at);
  }
}

/** Reads a whole text as rows of cells. Throws a FormatError with the line. */
export function readCsv(text: string, dialect: Dialect, to?: number): string[][] {
  try {
    return parse(text, { ...csvOptions(dialect), ...(to !== undefined && { to }) });
  } catch (error) {
    throw csvProblem(error);
  }
}

/** The names of columns from the first row, or numbered. Throws where a name stands twice. */
export function columnNames(first: readonly string[], header: boolean): string[] {
  if (!header) return first.map((_, i) => `Column ${i + 1}`);
  const names = first.map((name, i) => name.trim() || `Column ${i + 1}`);
  const seen = new Map<string, number>();
  names.forEach((name, i) => {
    const before = seen.get(name);
    if (before !== undefined)
      throw new FormatError(
        `Two columns are called “${name}” (columns ${before + 1} and ${i + 1}); rename one in the file.`,
        1,
      );
    seen.set(name, i);
  });
  return names;
}
