import { columnWidths } from './structure';

/** A column is so wide at least, in percent. */
export const NARROWEST = 10;

/**
 * The widths of columns, in percent, after the border behind one of them was moved to a place: what it
 * gives the one the next one loses, and neither becomes narrower than `NARROWEST`.
 */
export function movedBorder(
  columns: readonly { width?: number | undefined }[],
  index: number,
  to: number,
): number[] {
  const widths = columnWidths(columns);
  const before = widths.slice(0, index).reduce((sum, width) => sum + width, 0);
  const both = (widths[index] ?? 0) + (widths[index + 1] ?? 0);
  const own = Math.round(Math.min(both - NARROWEST, Math.max(NARROWEST, to - before)) * 10) / 10;
  return widths.map((width, i) =>
    i === index ? own : i === index + 1 ? Math.round((both - own) * 10) / 10 : width,
  );
}
