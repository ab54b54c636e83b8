import { parse } from 'csv-parse/sync';
import { guessKind, readCell, type CellKind } from './cells';

export interface TableProblem {
  /** 1-based, counting the header. */
  row: number;
  column: string;
  message: string;
}

export interface Table {
  rows: Record<string, unknown>[];
  problems: TableProblem[];
}

/**
 * Reads CSV (RFC 4180) with a header. Columns named in `kinds` are read as said, others as what all
 * of their cells can be. A row with a cell that cannot be read is left out and told of. Throws an
 * Error in plain words where the text is no CSV.
 */
export function readTable(text: string, kinds: Record<string, CellKind>): Table {
  const [header = [], ...lines] = parse(text, { bom: true, skip_empty_lines: true });
  const columns = header.map((name, i) => ({
    name: name.trim(),
    kind:
      (Object.hasOwn(kinds, name.trim()) ? kinds[name.trim()] : undefined) ??
      guessKind(lines.map((line) => line[i] ?? '')),
  }));
  const rows: Record<string, unknown>[] = [];
  const problems: TableProblem[] = [];
  lines.forEach((line, at) => {
    const row: Record<string, unknown> = Object.create(null) as Record<string, unknown>;
    let sound = true;
    columns.forEach(({ name, kind }, i) => {
      const cell = readCell(line[i] ?? '', kind);
      if (!cell.ok) {
        sound = false;
        problems.push({ row: at + 2, column: name, message: cell.message });
      } else if (cell.value !== undefined) row[name] = cell.value;
    });
    if (sound) rows.push(row);
  });
  return { rows, problems };
}
