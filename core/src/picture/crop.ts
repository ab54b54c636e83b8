/** What of a picture matters: a point in shares of its width and height, and how near it is looked at. */
export interface Focus {
  /** 0 is left, 1 is right. */
  x: number;
  /** 0 is above, 1 is below. */
  y: number;
  /** 1 shows as much as the ratio lets; 2 half of that, and so on. */
  zoom: number;
}
export const CENTRE: Focus = { x: 0.5, y: 0.5, zoom: 1 };

/** A part of a picture, in its pixels. */
export interface Crop {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * The part of a picture of a ratio (width by height) that has the focus as near its middle as the edges
 * let. It lies within the picture and has at least one pixel.
 */
export function cropTo(
  { width, height }: { width: number; height: number },
  ratio: number,
  { x, y, zoom }: Focus = CENTRE,
): Crop {
  const widest = Math.min(width, height * ratio) / Math.max(1, zoom);
  const within = (length: number, most: number) => Math.max(1, Math.min(most, Math.round(length)));
  const wide = within(widest, width);
  const high = within(widest / ratio, height);
  const place = (share: number, length: number, all: number) =>
    Math.round(Math.min(all - length, Math.max(0, share * all - length / 2)));
  return {
    left: place(x, wide, width),
    top: place(y, high, height),
    width: wide,
    height: high,
  };
}
