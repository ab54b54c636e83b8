import type { Loop } from '../template/parts';

/** Where a value stands decides how it is escaped. */
export type PlaceOf = 'html' | 'attribute' | 'header' | 'plain';

/** A loop whose members stand in a grid: what opens and closes a row, and fills an empty cell. */
export interface Grid {
  columns: number;
  open: string;
  close: string;
  blank: string;
}

/** What a mark stands for until the mail is cut at the marks. */
export type Mark =
  | { is: 'value'; formula: string; place: PlaceOf; node: string; path: string }
  | {
      is: 'url';
      parts: UrlPart[];
      scheme: 'link' | 'picture';
      place: 'html' | 'plain';
      node: string;
      path: string;
    }
  | { is: 'condition'; formula: string; node: string; path: string }
  | { is: 'given'; parts: UrlPart[] }
  | { is: 'loop'; loop: Loop; grid?: Grid; node: string; path: string }
  | { is: 'node'; node: string }
  | { is: 'else' }
  | { is: 'end' };
/** Words of an address, or a formula in it. */
export type UrlPart = { words: string } | { formula: string };

const OPEN = '\uE000';
const CLOSE = '\uE001';
const MARKED = /\uE000(\d+)\uE001/;

/** Hands out marks, and cuts a text at them again. */
export class Marks {
  private readonly all: Mark[] = [];

  put(mark: Mark): string {
    return `${OPEN}${this.all.push(mark) - 1}${CLOSE}`;
  }

  /** A text as words and marks in turn. */
  cut(text: string): (string | Mark)[] {
    return text
      .split(MARKED)
      .map((piece, i) => (i % 2 === 0 ? piece : this.all[Number(piece)]))
      .filter((piece) => piece !== undefined && piece !== '') as (string | Mark)[];
  }
}

/** Takes the characters that marks are made of out of a designer's words. */
export function withoutMarks(text: string): string {
  return text.replace(/[\uE000\uE001]/g, '');
}
