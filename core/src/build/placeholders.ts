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
  | { is: 'else' }
  | { is: 'end' };
/** Words of an address, or a formula in it. */
export type UrlPart = { words: string } | { formula: string };

const OPEN = '\uE000';
const CLOSE = '\uE001';
const PLACED = /\uE000(\d+)\uE001/;

/** Hands out placeholders, and cuts a text at them again. */
export class Placeholders {
  private readonly all: Placeholder[] = [];

  put(placeholder: Placeholder): string {
    return `${OPEN}${this.all.push(placeholder) - 1}${CLOSE}`;
  }

  /** A text as words and placeholders in turn. */
  cut(text: string): (string | Placeholder)[] {
    return text
      .split(PLACED)
      .map((piece, i) => (i % 2 === 0 ? piece : this.all[Number(piece)]))
      .filter((piece) => piece !== undefined && piece !== '') as (string | Placeholder)[];
  }
}

/** Takes the characters that placeholders are made of out of a designer's words. */
export function withoutPlaceholders(text: string): string {
  return text.replace(/[\uE000-\uE002]/g, '');
}
