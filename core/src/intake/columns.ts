import { guessReading, type Reading } from '../formats/cells';
import { likelyOrder } from '../formats/dateCells';
import type { TargetField } from './targets';

/** The beginning of a file: its columns and some rows, cells as they stand. */
export interface Sample {
  columns: string[];
  rows: unknown[][];
}

/** The name that a column of its own gets in formulas: `Sow from` is `sow_from`. */
export function fieldName(column: string): string {
  const name = column
    .normalize('NFC')
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{Nd}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
  return /^\p{L}/u.test(name) ? name : name === '' ? 'column' : `_${name}`;
}

const asText = (value: unknown): string =>
  typeof value === 'object' || value === null || value === undefined ? '' : String(value as string);

/** The filled cells of a column, as text. */
export function texts(sample: Sample, i: number): string[] {
  return sample.rows.map((row) => asText(row[i]).trim()).filter((cell) => cell !== '');
}

/** The reading of a column for a field: what the field wants, in the way that the cells are written. */
export function readingFor(
  sample: Sample,
  i: number,
  field?: TargetField,
  decimal: '.' | ',' = '.',
): Reading {
  const cells = texts(sample, i);
  if (
    cells.length === 0 &&
    sample.rows.some((row) => typeof row[i] === 'object' && row[i] !== null)
  )
    return { kind: 'any' };
  const guessed = guessReading(cells, decimal);
  const wanted = field?.kind;
  if (wanted === undefined || wanted === guessed.kind) return guessed;
  switch (wanted) {
    case 'text':
    case 'any':
    case 'boolean':
      return { kind: wanted };
    case 'number':
      return { kind: 'number', decimal };
    case 'date':
      return { kind: 'date', order: likelyOrder(cells) };
    case 'list': {
      const separator = (['|', ';', ','] as const).find((s) => cells.some((c) => c.includes(s)));
      return { kind: 'list', separator: separator ?? '|' };
    }
  }
}

/** Comma or point, as most of the cells that tell say. */
export function usualDecimal(sample: Sample): '.' | ',' {
  let comma = 0;
  sample.columns.forEach((_, i) => {
    for (const cell of texts(sample, i)) {
      if (/^\D{0,4}\d[\d.\s]*,\d{1,2}\D{0,4}$/.test(cell)) comma++;
      else if (/^\D{0,4}\d[\d,\s]*\.\d{1,2}\D{0,4}$/.test(cell)) comma--;
    }
  });
  return comma > 0 ? ',' : '.';
}
