import type { BinaryOperator, CompareOperator, Node, Span } from './ast';
import { MAX_DEPTH, MAX_LENGTH } from './bounds';
import { FormulaError, nextToken, type Token } from './lex';

/** A parse that failed: the sentence, the span, and the 1-based column in characters. */
export interface ParseProblem extends Span {
  message: string;
  column: number;
  /** What may have been meant, to take the place of the span. */
  repair?: { label: string; text: string };
}
export type Parsed<T = Node> = { ok: true; value: T } | { ok: false; error: ParseProblem };

/** The 1-based column, in characters (code points), of a UTF-16 offset. */
export function columnOf(source: string, offset: number): number {
  return [...source.slice(0, offset)].length + 1;
}

export function problemOf(source: string, error: FormulaError): ParseProblem {
  const { message, start, end } = error;
  return { message, start, end, column: columnOf(source, start) };
}

const SUM = new Set(['+', '-']);
const TERM = new Set(['*', '/']);
const COMPARE = new Set(['=', '!=', '<', '<=', '>', '>=']);

/** Recursive descent over the grammar in docs/formulas.md; one method a rule. */
class Parser {
  private token: Token;
  private last = 0;
  private depth = 0;

  constructor(
    private readonly source: string,
    private readonly from: number,
    private readonly braces: boolean,
  ) {
    this.token = this.read(from);
  }

  whole(): { node: Node; end: number } {
    const node = this.formula();
    if (this.token.type !== 'end') this.unexpected('Nothing more was expected here.');
    return { node, end: this.token.end };
  }

  private read(at: number): Token {
    const token = nextToken(this.source, at, this.braces);
    if (token.start - this.from > MAX_LENGTH || token.end - this.from > MAX_LENGTH + 2)
      throw new FormulaError(
        `A formula has at most ${MAX_LENGTH.toLocaleString('en-GB')} characters. Split it into several.`,
        this.from + MAX_LENGTH,
      );
    return token;
  }

  private unexpected(message: string): never {
    const { type, start, end } = this.token;
    throw new FormulaError(
      type === 'end' ? `The formula ends too early. ${message}` : message,
      start,
      Math.max(end, start + 1),
    );
  }

  private advance(): Token {
    const token = this.token;
    this.last = token.end;
    this.token = this.read(token.end);
    return token;
  }

  private isWord(value: string): boolean {
    return this.token.type === 'word' && this.token.value === value;
  }
  private isSymbol(value: string): boolean {
    return this.token.type === 'symbol' && this.token.value === value;
  }
  private takeWord(value: string): boolean {
    if (!this.isWord(value)) return false;
    this.advance();
    return true;
  }
  private takeSymbol(value: string): boolean {
    if (!this.isSymbol(value)) return false;
    this.advance();
    return true;
  }
  private expect(symbol: string): void {
    if (!this.takeSymbol(symbol)) this.unexpected(`A “${symbol}” was expected here.`);
  }

  private deeper<T>(inside: () => T): T {
    if (++this.depth > MAX_DEPTH + 1)
      throw new FormulaError(
        `A formula can be nested at most ${MAX_DEPTH} levels deep.`,
        this.token.start,
      );
    const result = inside();
    this.depth--;
    return result;
  }

  private binary(op: BinaryOperator, left: Node, right: Node): Node {
    return { type: 'binary', op, left, right, start: left.start, end: right.end };
  }

  private formula(): Node {
    return this.deeper(() => {
      let left = this.and();
      while (this.takeWord('or')) left = this.binary('or', left, this.and());
      return left;
    });
  }

  private and(): Node {
    let left = this.not();
    while (this.takeWord('and')) left = this.binary('and', left, this.not());
    return left;
  }

  private not(): Node {
    const { start } = this.token;
    if (!this.takeWord('not')) return this.comparison();
    const of = this.deeper(() => this.not());
    return { type: 'not', of, start, end: of.end };
  }

  private comparison(): Node {
    const left = this.join();
    if (this.takeWord('is')) {
      const negated = this.takeWord('not');
      const what = this.isWord('filled') ? 'filled' : this.isWord('empty') ? 'empty' : null;
      if (what) {
        this.advance();
        return { type: 'is', of: left, what, negated, start: left.start, end: this.last };
      }
      return this.binary(negated ? '!=' : '=', left, this.join());
    }
    const op = this.compareOperator();
    return op ? this.binary(op, left, this.join()) : left;
  }

  private compareOperator(): CompareOperator | null {
    if (this.token.type === 'symbol' && COMPARE.has(this.token.value)) {
      return (this.advance() as { value: CompareOperator }).value;
    }
    if (this.takeWord('in')) return 'in';
    if (this.takeWord('contains')) return 'contains';
    if (this.takeWord('not')) {
      if (!this.takeWord('in')) this.unexpected('After “not”, “in” was expected here.');
      return 'not in';
    }
    for (const side of ['starts', 'ends'] as const) {
      if (!this.takeWord(side)) continue;
      if (this.token.type !== 'name' || this.token.value !== 'with')
        this.unexpected(`After “${side}”, “with” was expected here.`);
      this.advance();
      return `${side} with`;
    }
    return null;
  }

  private join(): Node {
    let left = this.sum();
    while (this.takeSymbol('&')) left = this.binary('&', left, this.sum());
    return left;
  }

  private sum(): Node {
    return this.chain(SUM, () => this.term());
  }

  private term(): Node {
    return this.chain(TERM, () => this.unary());
  }

  private chain(symbols: Set<string>, operand: () => Node): Node {
    let left = operand();
    while (this.token.type === 'symbol' && symbols.has(this.token.value)) {
      const { value } = this.advance() as { value: BinaryOperator };
      left = this.binary(value, left, operand());
    }
    return left;
  }

  private unary(): Node {
    const { start } = this.token;
    if (!this.takeSymbol('-')) return this.fallback();
    const of = this.deeper(() => this.unary());
    return { type: 'negate', of, start, end: of.end };
  }

  private fallback(): Node {
    let left = this.where();
    while (this.takeWord('otherwise')) {
      const right = this.where();
      left = { type: 'otherwise', left, right, start: left.start, end: right.end };
    }
    return left;
  }

  private where(): Node {
    let of = this.postfix();
    while (this.takeWord('where')) {
      this.expect('(');
      const test = this.formula();
      this.expect(')');
      of = { type: 'where', of, test, start: of.start, end: this.last };
    }
    return of;
  }

  private postfix(): Node {
    let of = this.primary();
    for (;;) {
      if (this.takeSymbol('.')) {
        if (this.token.type !== 'name') this.unexpected('The name of a field was expected here.');
        const { value: name } = this.advance() as { value: string };
        of = { type: 'field', of, name, start: of.start, end: this.last };
      } else if (this.takeSymbol('[')) {
        const index = this.formula();
        this.expect(']');
        of = { type: 'index', of, index, start: of.start, end: this.last };
      } else return of;
    }
  }

  private primary(): Node {
    const { token } = this;
    const { start, end } = token;
    switch (token.type) {
      case 'number':
        this.advance();
        return { type: 'number', value: token.value, start, end };
      case 'text':
        this.advance();
        return { type: 'text', value: token.value, start, end };
      case 'name':
        this.advance();
        if (!this.takeSymbol('(')) return { type: 'name', name: token.value, start, end };
        return { type: 'call', name: token.value, args: this.items(')'), start, end: this.last };
      case 'word':
        if (token.value === 'true' || token.value === 'false') {
          this.advance();
          return { type: 'boolean', value: token.value === 'true', start, end };
        }
        if (this.takeWord('missing')) return { type: 'missing', start, end };
        break;
      case 'symbol':
        if (this.takeSymbol('['))
          return { type: 'list', items: this.items(']'), start, end: this.last };
        if (this.takeSymbol('(')) {
          const inside = this.formula();
          this.expect(')');
          return { ...inside, start, end: this.last };
        }
        break;
      case 'end':
        break;
    }
    return this.unexpected('A value, a field or a function was expected here.');
  }

  private items(close: ')' | ']'): Node[] {
    const items: Node[] = [];
    if (this.takeSymbol(close)) return items;
    do items.push(this.formula());
    while (this.takeSymbol(','));
    this.expect(close);
    return items;
  }
}

/**
 * Parses a formula that stands alone. Never throws: what cannot stand is told with the 1-based
 * column of its first character (one past the last character for the end).
 */
export function parse(source: string): Parsed {
  try {
    return { ok: true, value: new Parser(source, 0, false).whole().node };
  } catch (error) {
    if (error instanceof FormulaError) return { ok: false, error: problemOf(source, error) };
    throw error;
  }
}

/**
 * Parses the formula that starts at `from` and is closed by two braces. Returns the node and the
 * offset after the braces. Throws FormulaError.
 */
export function parseBraced(source: string, from: number): { node: Node; end: number } {
  return new Parser(source, from, true).whole();
}
