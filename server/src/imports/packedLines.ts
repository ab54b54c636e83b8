import type { NoEvent, StagedEvent } from './eventLines';

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
