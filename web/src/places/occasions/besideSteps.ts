/** Where a line stands by itself, and where the step is that it tells of, in pixels from the top; null without a step. */
export interface PlacedLine {
  height: number;
  step: number | null;
}

/**
 * How much room comes before each line, so that it stands at the height of its step, but never over the line before
 * it. `top` is where the first line may begin.
 */
export function roomBefore(lines: readonly PlacedLine[], top: number, gap: number): number[] {
  let next = top;
  return lines.map(({ height, step }) => {
    const room = Math.max(0, (step ?? next) - next);
    next += room + height + gap;
    return room;
  });
}
