import type { Span } from './ast';

export type Token = Span &
  (
    | { type: 'number'; value: number }
    | { type: 'text'; value: string }
    | { type: 'name'; value: string }
    | { type: 'word'; value: string }
    | { type: 'symbol'; value: string }
    | { type: 'end' }
  );

/** What a person did wrong in a formula, with the place: UTF-16 offsets into the source. */
export class FormulaError extends Error {
  override name = 'FormulaError';
  constructor(
    message: string,
    readonly start: number,
    readonly end: number = start + 1,
  ) {
    super(message);
  }
}

/** Words that cannot be bare names; a field so named is reached as `record["where"]`. */
export const RESERVED: ReadonlySet<string> = new Set(
  'and or not is in contains starts ends where otherwise filled empty true false missing'.split(
    ' ',
  ),
);

const SPACE = /\s*/uy;
const NAME = /[\p{L}_][\p{L}\p{Nd}_]*/uy;
const NUMBER = /\d+(?:\.\d+)?/y;
const SYMBOL = /!=|<=|>=|[-+*/&=<>()[\],.]/y;

function match(pattern: RegExp, source: string, at: number): string {
  pattern.lastIndex = at;
  return pattern.exec(source)?.[0] ?? '';
}

function lexText(source: string, start: number): Token {
  let value = '';
  for (let at = start + 1; at < source.length; at++) {
    const char = source[at];
    if (char === '"') return { type: 'text', value, start, end: at + 1 };
    if (char !== '\\') {
      value += char;
      continue;
    }
    const next = source[++at];
    if (next === 'n') value += '\n';
    else if (next === '"' || next === '\\') value += next;
    else if (next !== undefined)
      throw new FormulaError('Only ", \\ or n can follow a backslash.', at);
  }
  throw new FormulaError('This text is never closed. A " is missing.', start, source.length);
}

/**
 * The token that starts at or after `at`. Two closing braces end a formula in running text and
 * are read as the end when `braces` is set.
 */
export function nextToken(source: string, at: number, braces: boolean): Token {
  const start = at + match(SPACE, source, at).length;
  if (start >= source.length) return { type: 'end', start: source.length, end: source.length };
  if (braces && source.startsWith('}}', start)) return { type: 'end', start, end: start + 2 };
  if (source[start] === '"') return lexText(source, start);

  const name = match(NAME, source, start);
  if (name) {
    return {
      type: RESERVED.has(name) ? 'word' : 'name',
      value: name,
      start,
      end: start + name.length,
    };
  }
  const digits = match(NUMBER, source, start);
  if (digits) {
    const value = Number(digits);
    const end = start + digits.length;
    if (!Number.isFinite(value)) throw new FormulaError('This number is too large.', start, end);
    return { type: 'number', value, start, end };
  }
  const symbol = match(SYMBOL, source, start);
  if (symbol) return { type: 'symbol', value: symbol, start, end: start + symbol.length };
  const char = String.fromCodePoint(source.codePointAt(start) ?? 0);
  throw new FormulaError(`“${char}” is not allowed here.`, start, start + char.length);
}
