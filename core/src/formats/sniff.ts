import { parse } from 'csv-parse/sync';
import { guessReading } from './cells';
import { DELIMITERS, type Delimiter, type Dialect } from './dialect';

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

function hasHeader(rows: string[][]): boolean {
  const [first = [], ...others] = rows;
  const names = first.map((name) => name.trim());
  if (names.filter((name) => name === '').length > names.length / 2) return false;
  const kind = (cells: string[]) => guessReading(cells).kind;
  // A column of numbers or dates with a word on top has a header.
  const telling = names.map((name, i) => {
    const below = kind(others.map((row) => row[i] ?? ''));
    return below === 'text' || below === 'list' ? 0 : kind([name]) === below ? -1 : 1;
  });
  const sum = telling.reduce<number>((total, n) => total + n, 0);
  if (sum !== 0) return sum > 0;
  return names.every((name) => name.length <= 60 && !/@|:\/\//.test(name));
}

/** Finds delimiter, quoting and header from the beginning of a file. */
export function sniffDialect(sample: string): Dialect {
  let best: { delimiter: Delimiter; quote: Dialect['quote']; rows: string[][]; score: number } = {
    delimiter: ',',
    quote: '"',
    rows: rowsWith(sample, ',', '"'),
    score: 0,
  };
  for (const delimiter of DELIMITERS)
    for (const quote of ['"', "'"] as const) {
      if (quote === "'" && !new RegExp(`(^|[\\n${delimiter}])'`, 'm').test(sample)) continue;
      const rows = rowsWith(sample, delimiter, quote);
      const found = score(rows);
      if (found > best.score * 1.001) best = { delimiter, quote, rows, score: found };
    }
  return { delimiter: best.delimiter, quote: best.quote, header: hasHeader(best.rows) };
}
