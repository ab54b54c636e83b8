import type { NoEvent, StagedEvent } from './eventLines';
import type { FileRow } from './fileRows';

const COLUMNS = [
  ...['line', 'shop', 'id', 'at', 'kind', 'email', 'visitor', 'number', 'currency', 'unsaid'],
  ...['text', 'wrong'],
] as const;

/** Lines as one list a column: a million records take longer to go from thread to thread than to be read. */
export type PackedLines = unknown[][];

export const packed = (lines: readonly (StagedEvent | NoEvent)[]): PackedLines =>
  COLUMNS.map((name) => lines.map((line) => (line as unknown as Record<string, unknown>)[name]));

export function unpacked(columns: PackedLines): (StagedEvent | NoEvent)[] {
  const [line, shop, id, at, kind, email, visitor, number, currency, unsaid, text, wrong] = columns;
  return (line ?? []).map(
    (_, i) =>
      ({
        line: line?.[i],
        shop: shop?.[i],
        id: id?.[i],
        at: at?.[i],
        kind: kind?.[i],
        email: email?.[i],
        visitor: visitor?.[i],
        number: number?.[i],
        currency: currency?.[i],
        unsaid: unsaid?.[i],
        text: text?.[i],
        wrong: wrong?.[i],
      }) as StagedEvent | NoEvent,
  );
}

/** Rows of a file as three lists: lines, how many cells each has, and the cells one after the other; what is wrong by place. */
export interface PackedRows {
  lines: number[];
  widths: number[];
  cells: unknown[];
  wrong: [place: number, why: string][];
}

export function packedRows(rows: readonly FileRow[]): PackedRows {
  return {
    lines: rows.map(({ line }) => line),
    widths: rows.map(({ cells }) => cells.length),
    cells: rows.flatMap(({ cells }) => cells),
    wrong: rows.flatMap(({ wrong }, i): PackedRows['wrong'] =>
      wrong === undefined ? [] : [[i, wrong]],
    ),
  };
}

export function unpackedRows({ lines, widths, cells, wrong }: PackedRows): FileRow[] {
  const whys = new Map(wrong);
  let at = 0;
  return lines.map((line, i) => {
    const from = at;
    at += widths[i] ?? 0;
    const why = whys.get(i);
    return { line, cells: cells.slice(from, at), ...(why !== undefined && { wrong: why }) };
  });
}
