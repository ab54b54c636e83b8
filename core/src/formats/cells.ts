import { readDate } from '../formula';
import { numberLike } from '../formula/number';

/** How a column's cells are read. */
export type CellKind = 'text' | 'number' | 'boolean' | 'date' | 'list';

export type Cell = { ok: true; value: unknown } | { ok: false; message: string };

const YES = new Set(['true', 'yes', '1', 'y', 'x']);
const NO = new Set(['false', 'no', '0', 'n', '']);

/** Reads one cell; blank is missing. Dates are ISO 8601, lists stand as `a|b|c`. */
export function readCell(text: string, kind: CellKind): Cell {
  const trimmed = text.trim();
  if (trimmed === '') return { ok: true, value: kind === 'list' ? [] : undefined };
  switch (kind) {
    case 'text':
      return { ok: true, value: text };
    case 'number': {
      const value = numberLike(trimmed);
      return value === undefined
        ? { ok: false, message: `“${trimmed}” is not a number such as 12.50.` }
        : { ok: true, value };
    }
    case 'boolean': {
      const folded = trimmed.toLowerCase();
      if (YES.has(folded)) return { ok: true, value: true };
      if (NO.has(folded)) return { ok: true, value: false };
      return { ok: false, message: `“${trimmed}” is neither yes nor no.` };
    }
    case 'date':
      return readDate(trimmed)
        ? { ok: true, value: trimmed }
        : { ok: false, message: `“${trimmed}” is not a date such as 2026-03-31.` };
    case 'list':
      return {
        ok: true,
        value: trimmed
          .split('|')
          .map((s) => s.trim())
          .filter((s) => s !== ''),
      };
  }
}

/** The kind that all filled cells of a column can be read as. */
export function guessKind(cells: readonly string[]): CellKind {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  if (filled.length === 0) return 'text';
  // A leading zero is part of a code, not of a number; numberLike refuses it.
  if (filled.every((cell) => numberLike(cell) !== undefined)) return 'number';
  if (filled.every((cell) => /^(?:true|false|yes|no)$/i.test(cell))) return 'boolean';
  if (filled.every((cell) => readDate(cell) !== undefined)) return 'date';
  return 'text';
}
