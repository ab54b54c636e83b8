import { parse } from 'csv-parse/sync';
import { guessReading } from './cells';
import { DELIMITERS, MAX_LINES_ABOVE, type Delimiter, type Dialect } from './dialect';

const SAMPLE_ROWS = 50;

function rowsWith(sample: string, delimiter: Delimiter, quote: string): string[][] {
  try {
    return parse(sample, {
      delimiter,
      quote: quote === '' ? null : quote,
      bom: true,
      relax_quotes: true,
      relax_column_count: true,
      skip_empty_lines: true,
      to: SAMPLE_ROWS,
    });
  } catch {
    // A sample may end in the middle of a quoted cell: what stands before it still tells.
    return sample
      .split(/\r\n|\n|\r/)
      .slice(0, SAMPLE_ROWS)
      .filter((line) => line !== '')
      .map((line) => line.split(delimiter));
  }
}

/** How well a way of cutting fits: rows of one width, the wider the better. */
function score(rows: string[][]): number {
  const width = rows[0]?.length ?? 0;
  if (width < 2) return 0;
  const same = rows.filter((row) => row.length === width).length;
  return (same / rows.length) ** 2 * Math.min(width, 40);
}

const CODE = /^(?=.*\d)(?=.*[A-Z])[A-Z\d][A-Z\d._/-]{3,}$/;

function hasHeader(rows: string[][]): boolean {
  const [first = [], ...others] = rows;
  const names = first.map((name) => name.trim());
  if (names.filter((name) => name === '').length > names.length / 2) return false;
  const kind = (cells: string[]) => guessReading(cells).kind;
  // A column of numbers or dates with a word on top has a header.
  const telling = names.map((name, i) => {
    const cells = others.map((row) => row[i] ?? '').filter((cell) => cell.trim() !== '');
    // A column of codes with a word on top has one, too.
    if (cells.length > 0 && cells.every((cell) => CODE.test(cell))) return CODE.test(name) ? -1 : 1;
    const below = kind(cells);
    return below === 'text' || below === 'list' ? 0 : kind([name]) === below ? -1 : 1;
  });
  const sum = telling.reduce<number>((total, n) => total + n, 0);
  if (sum !== 0) return sum > 0;
  return names.every((name) => name.length <= 60 && !/@|:\/\//.test(name));
}

interface Way {
  delimiter: Delimiter;
  quote: Dialect['quote'];
  rows: string[][];
  score: number;
}

/** The way of cutting that fits best. */
function bestWay(sample: string, delimiters: readonly Delimiter[]): Way {
  let best: Way = { delimiter: ',', quote: '"', rows: rowsWith(sample, ',', '"'), score: 0 };
  for (const delimiter of delimiters)
    for (const quote of ['"', "'"] as const) {
      if (quote === "'" && !new RegExp(`(^|[\\n${delimiter}])'`, 'm').test(sample)) continue;
      const rows = rowsWith(sample, delimiter, quote);
      const found = score(rows);
      if (found > best.score * 1.001) best = { delimiter, quote, rows, score: found };
    }
  return best;
}

const LINE_END = /\r\n|\n|\r/;
/** The first line of sheets that name their separator. */
const NAMED = /^"?sep=(.)"?$/i;

/** What stands from a line on. */
function fromLine(sample: string, line: number): string {
  let at = 0;
  for (let i = 0; i < line; i++) {
    const end = LINE_END.exec(sample.slice(at));
    if (!end) return '';
    at += end.index + end[0].length;
  }
  return sample.slice(at);
}

/** Whether nearly all rows are as wide as the first, and more than half of the first is filled. */
function beginsTable(rows: readonly string[][]): boolean {
  const [first = []] = rows;
  const same = rows.filter((row) => row.length === first.length).length;
  const filled = first.filter((cell) => cell.trim() !== '').length;
  return first.length > 1 && same >= 0.9 * rows.length && filled > first.length / 2;
}

/**
 * The lines above a table that begins with a title: they fill half of the columns at most that nearly all rows below
 * have. 0 where there are none.
 */
function linesAbove(sample: string): number {
  // A table from its first line on has nothing above it, however its cells could be cut.
  if (beginsTable(bestWay(sample, DELIMITERS).rows)) return 0;
  for (let line = 1; line <= MAX_LINES_ABOVE; line++) {
    const rest = fromLine(sample, line);
    if (rest === '') return 0;
    if (/^\s*$/.test(rest.split(LINE_END, 1)[0] ?? '')) continue;
    const { rows, delimiter } = bestWay(rest, DELIMITERS);
    const width = rows[0]?.length ?? 0;
    if (width < 3 || rows.length < 2 || !beginsTable(rows)) continue;
    const filled = (text: string) =>
      text.split(delimiter).filter((cell) => cell.trim() !== '').length;
    const above = sample.split(LINE_END, line);
    return above.every((text) => filled(text) <= width / 2) ? line : 0;
  }
  return 0;
}

/** Finds what stands above the table, delimiter, quoting and header from the beginning of a file. */
export function sniffDialect(sample: string): Dialect {
  const [first = ''] = sample.replace(/^\uFEFF/, '').split(LINE_END, 1);
  const named = NAMED.exec(first)?.[1];
  const known = DELIMITERS.find((delimiter) => delimiter === named);
  const skip = named === undefined ? linesAbove(sample) : 1;
  const best = bestWay(fromLine(sample, skip), known ? [known] : DELIMITERS);
  const header = hasHeader(best.rows);
  return {
    ...{ delimiter: known ?? best.delimiter, quote: best.quote, header },
    ...(skip > 0 && { skip }),
  };
}
