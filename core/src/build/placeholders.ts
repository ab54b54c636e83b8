import type { Loop } from '../template/parts';

/** Where a value stands decides how it is escaped. */
export type OutputPlace = 'html' | 'attribute' | 'header' | 'plain' | 'markup';

/** A loop whose members stand in a grid: what opens and closes a row, and fills an empty cell. */
export interface Grid {
  columns: number;
  open: string;
  close: string;
  blank: string;
}

/** What a placeholder stands for until the mail is cut at the placeholders. */
export type Placeholder =
  | { is: 'value'; formula: string; place: OutputPlace; node: string; path: string }
  | {
      is: 'url';
      parts: UrlPart[];
      scheme: 'link' | 'picture';
      place: 'html' | 'plain';
      node: string;
      path: string;
    }
  | { is: 'condition'; formula: string; node: string; path: string }
  | {
      is: 'ifAddress';
      parts: UrlPart[];
      scheme: 'link' | 'picture';
      node: string;
      path: string;
    }
  | { is: 'loop'; loop: Loop; grid?: Grid; node: string; path: string }
  | { is: 'node'; node: string }
  /** Words of a field: bounded for a canvas, so that they are edited where they stand. */
  | { is: 'field'; path: string }
  /** Words of the designer's own, as they stand in HTML: what MJML makes does not hang on them. */
  | { is: 'words'; html: string }
  | { is: 'else' }
  | { is: 'end' };
/** What stays a placeholder when the words are in their places. */
export type Filled = Exclude<Placeholder, { is: 'words' }>;
/** Words of an address, or a formula in it. */
export type UrlPart = { words: string } | { formula: string };

const OPEN = '\uE000';
const CLOSE = '\uE001';
const PLACED = /\uE000(u?\d+)\uE001/;
/** Before the number of one that MJML never sees. */
const UNSEEN = 'u';
const ALL_PLACED = new RegExp(PLACED, 'g');

/** Hands out placeholders, and cuts a text at them again. */
export class Placeholders {
  private readonly seen: Placeholder[] = [];
  private readonly unseen: Placeholder[] = [];
  private isHiding = false;

  put(placeholder: Placeholder): string {
    return this.isHiding
      ? `${OPEN}${UNSEEN}${this.unseen.push(placeholder) - 1}${CLOSE}`
      : `${OPEN}${this.seen.push(placeholder) - 1}${CLOSE}`;
  }

  /** HTML in one placeholder, whatever stands in it: the others keep their numbers when it changes. */
  hide(write: () => string): string {
    const isOuter = !this.isHiding;
    this.isHiding = true;
    let html;
    try {
      html = write();
    } finally {
      if (isOuter) this.isHiding = false;
    }
    return html === '' || !isOuter ? html : this.put({ is: 'words', html });
  }

  private of(number: string): Placeholder | undefined {
    return number.startsWith(UNSEEN)
      ? this.unseen[Number(number.slice(UNSEEN.length))]
      : this.seen[Number(number)];
  }

  /** A text with the designer's words where they stand; all else stays a placeholder. */
  withWords(text: string): string {
    return text.replace(ALL_PLACED, (placed, n: string) => {
      const one = this.of(n);
      return one?.is === 'words' ? one.html : placed;
    });
  }

  /** A text as words and placeholders in turn. */
  cut(text: string): (string | Filled)[] {
    return this.withWords(text)
      .split(PLACED)
      .map((piece, i) => (i % 2 === 0 ? piece : this.of(piece)))
      .filter((piece) => piece !== undefined && piece !== '') as (string | Filled)[];
  }
}

/** Which placeholders stand in a text. */
export function placedIn(text: string): Set<string> {
  return new Set(Array.from(text.matchAll(ALL_PLACED), ([placed]) => placed));
}

/** Takes the characters that placeholders are made of out of a designer's words. */
export function withoutPlaceholders(text: string): string {
  return text.replace(/[\uE000-\uE002]/g, '');
}
