/** A picture of the library as a template names it. */
export interface LibraryPicture {
  id: string;
  /** Its size in pixels when it was chosen: what it is shown as keeps that shape, whatever replaces it. */
  width: number;
  height: number;
}

/** Pictures are drawn up to so many pixels wide or high. */
export const MAX_DRAWN = 2400;

const BASE = '{{ shop.pictures }}/library';
const REFERENCE = /^\{\{ shop\.pictures \}\}\/library\/([\w-]{1,40})\/(\d{1,5})x(\d{1,5})$/;
/** What is drawn on a picture of a video comes behind its size. */
const MARKED = '-play';

/** The address of a library picture as running text: what a recipient's mail loads. */
export function pictureAddress({ id, width, height }: LibraryPicture): string {
  return `${BASE}/${id}/${width}x${height}`;
}

/** The library picture that running text names; null where it is another address. */
export function libraryPicture(src: string): LibraryPicture | null {
  const [, id, width, height] = REFERENCE.exec(src.trim()) ?? [];
  if (id === undefined || !Number(width) || !Number(height)) return null;
  return { id, width: Number(width), height: Number(height) };
}

/** The ids of all library pictures that a text names anywhere, such as a template as JSON. */
export function picturesNamed(text: string): string[] {
  const found = text.matchAll(/\/library\/([\w-]{1,40})\/\d{1,5}x\d{1,5}/g);
  return [...new Set([...found].map(([, id = '']) => id))];
}

/** Ratios that pictures can be brought to; `own` keeps that of the picture. */
export const RATIOS = ['own', '1:1', '4:3', '3:2', '16:9', '3:4', '2:3'] as const;
export type Ratio = (typeof RATIOS)[number];

/** Width by height; null for the picture's own. */
export function ratioOf(ratio: Ratio | undefined): number | null {
  if (ratio === undefined || ratio === 'own') return null;
  const [width = 1, height = 1] = ratio.split(':').map(Number);
  return width / height;
}

/** A picture as a mail shows it. */
export interface Shown {
  /** Running text: the size needed, and twice of it for sharp screens. */
  once: string;
  twice: string;
  /** In pixels of the mail. */
  width: number;
  height: number;
}

/**
 * How a library picture is shown so many pixels wide, brought to a ratio. It is never asked for larger
 * than it is: a screen enlarges as well as a server.
 */
export function shownAt(
  picture: LibraryPicture,
  width: number,
  ratio: number | null = null,
  marked = false,
): Shown {
  const shape = ratio ?? picture.width / picture.height;
  const of = (wide: number): string => {
    const most = Math.min(picture.width, picture.height * shape, MAX_DRAWN, MAX_DRAWN * shape);
    const drawn = Math.max(1, Math.round(Math.min(wide, most)));
    const height = Math.max(1, Math.round(drawn / shape));
    const address = pictureAddress({ id: picture.id, width: drawn, height });
    return marked ? `${address}${MARKED}` : address;
  };
  return {
    once: of(width),
    twice: of(width * 2),
    width,
    height: Math.max(1, Math.round(width / shape)),
  };
}
