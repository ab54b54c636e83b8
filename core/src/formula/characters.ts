import { textSteps } from './values';

const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/**
 * Code points that may make one character together with others (Unicode Standard Annex 29, table 2):
 * marks, joiners, flags, skin tones, jamo, prepended signs. Without any of them, every code point is
 * a character by itself.
 */
const JOINING =
  /[\p{M}\p{Emoji_Modifier}\p{Regional_Indicator}\r\u0600-\u0605\u06dd\u070f\u0890\u0891\u08e2\u0d4e\u1100-\u11ff\u200c\u200d\ua960-\ua97f\ud7b0-\ud7ff\uff9e\uff9f\u{110bd}\u{110cd}\u{111c2}\u{111c3}\u{1193f}\u{11941}\u{11a3a}\u{11a84}-\u{11a89}\u{11d46}\u{11f02}\u{e0020}-\u{e007f}]/u;

/** A segmenter slows down with the length of what it is given, so that it gets a piece at a time. */
const WINDOW = 256;

/** A place that does not lie between the halves of a pair. */
function wholePair(text: string, at: number): number {
  return (text.charCodeAt(at) & 0xfc00) === 0xdc00 ? at + 1 : at;
}

/** Cuts a text into characters as a reader counts them, as far as they are asked for. */
function* segments(text: string): Generator<string> {
  for (let at = 0; at < text.length;) {
    let found: string[];
    let end: number;
    let length = WINDOW;
    // What stands last in a window may go on behind it: it is cut again with the next one.
    do {
      end = wholePair(text, Math.min(text.length, at + length));
      found = Array.from(segmenter.segment(text.slice(at, end)), (part) => part.segment);
      length *= 2;
    } while (found.length === 1 && end < text.length);
    if (end < text.length) found.pop();
    for (const one of found) {
      at += one.length;
      yield one;
    }
  }
}

/** The characters of a text (grapheme clusters), in time that grows with its length alone. */
export function charactersOf(text: string): string[] {
  if (/^[\x20-\x7e]*$/.test(text)) return text.split('');
  return JOINING.test(text) ? [...segments(text)] : Array.from(text);
}

/** The first characters of a text, at most so many. */
export function firstCharacters(text: string, most: number): string[] {
  const first: string[] = [];
  for (const one of JOINING.test(text) ? segments(text) : text) {
    if (first.length >= most) break;
    first.push(one);
  }
  return first;
}

/** What cutting a text into characters costs, in steps. */
export function characterSteps(text: string): number {
  return JOINING.test(text) ? 2 * text.length : textSteps(text.length);
}
