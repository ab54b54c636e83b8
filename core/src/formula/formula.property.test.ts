import fc from 'fast-check';
import {
  compile,
  evaluate,
  localeOf,
  newContext,
  parse,
  parseRunning,
  print,
  printRunning,
  type Node,
} from '.';
import { RESERVED } from './lex';
import { plainNumber, roundTo } from './number';

const at = { start: 0, end: 0 };
const name = fc
  .constantFrom('cart', 'lines', 'price', 'x', '_a', 'naïve', 'it', 'record', 'with', 'person')
  .filter((n) => !RESERVED.has(n));
const op = fc.constantFrom(
  'or',
  'and',
  '&',
  '+',
  '-',
  '*',
  '/',
  '=',
  '!=',
  '<',
  '<=',
  '>',
  '>=',
  'in',
  'not in',
  'contains',
  'starts with',
  'ends with',
) as fc.Arbitrary<'or'>;

const { node } = fc.letrec<{ node: Node }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 5, depthSize: 'small' },
    fc
      .double({ min: 0, noNaN: true, noDefaultInfinity: true })
      .map((v): Node => ({ type: 'number', value: v + 0, ...at })),
    fc.string().map((value): Node => ({ type: 'text', value, ...at })),
    fc.boolean().map((value): Node => ({ type: 'boolean', value, ...at })),
    fc.constant<Node>({ type: 'missing', ...at }),
    name.map((n): Node => ({ type: 'name', name: n, ...at })),
    fc.array(tie('node'), { maxLength: 3 }).map((items): Node => ({ type: 'list', items, ...at })),
    fc.tuple(tie('node'), name).map(([of, n]): Node => ({ type: 'field', of, name: n, ...at })),
    fc
      .tuple(tie('node'), tie('node'))
      .map(([of, index]): Node => ({ type: 'index', of, index, ...at })),
    fc
      .tuple(tie('node'), tie('node'))
      .map(([of, test]): Node => ({ type: 'where', of, test, ...at })),
    fc
      .tuple(tie('node'), tie('node'))
      .map(([left, right]): Node => ({ type: 'otherwise', left, right, ...at })),
    tie('node').map((of): Node => ({ type: 'negate', of, ...at })),
    tie('node').map((of): Node => ({ type: 'not', of, ...at })),
    fc
      .tuple(tie('node'), fc.boolean(), fc.constantFrom<('filled' | 'empty')[]>('filled', 'empty'))
      .map(([of, negated, what]): Node => ({ type: 'is', of, what, negated, ...at })),
    fc
      .tuple(op, tie('node'), tie('node'))
      .map(([o, left, right]): Node => ({ type: 'binary', op: o, left, right, ...at })),
    fc
      .tuple(
        fc.constantFrom('sum', 'title', 'if', 'date', 'money', 'nothing'),
        fc.array(tie('node'), { maxLength: 3 }),
      )
      .map(([n, args]): Node => ({ type: 'call', name: n, args, ...at })),
  ),
}));

function bare(value: unknown): unknown {
  return JSON.parse(
    JSON.stringify(value, (key, v: unknown) => (key === 'start' || key === 'end' ? undefined : v)),
  );
}

describe('printing and parsing', () => {
  test('parsing what was printed gives the same formula', () => {
    fc.assert(
      fc.property(node, (formula) => {
        const text = print(formula);
        fc.pre(text.length <= 4000);
        const parsed = parse(text);
        expect(parsed.ok ? bare(parsed.value) : parsed.error).toEqual(bare(formula));
      }),
      { numRuns: 1500 },
    );
  });

  test('printing is canonical: printing again changes nothing', () => {
    fc.assert(
      fc.property(node, (formula) => {
        const text = print(formula);
        fc.pre(text.length <= 4000);
        const parsed = parse(text);
        expect(parsed.ok && print(parsed.value)).toBe(text);
      }),
    );
  });
});

const record = {
  person: { first_name: 'Ada', tags: ['a', 'b'], nested: { deep: [1, [2]] } },
  cart: {
    currency: 'GBP',
    lines: [{ name: 'x', price: 2, quantity: '3' }, null, 5, { name: null }],
  },
  ['__proto__x']: 1,
  today: new Date(0),
  odd: [new Date(Number.NaN), Number.NaN, Number.POSITIVE_INFINITY, undefined, () => 1],
};

const pieces = fc.constantFrom(
  'cart',
  '.',
  'lines',
  'price',
  '(',
  ')',
  '[',
  ']',
  ',',
  '"a"',
  '12',
  '1e9',
  ' where ',
  ' otherwise ',
  ' is ',
  ' not ',
  ' filled',
  ' and ',
  ' or ',
  '-',
  '*',
  '/',
  '+',
  '&',
  ' in ',
  ' contains ',
  'sum(',
  'sort(',
  'distinct(',
  'replace(',
  'constructor',
  '__proto__',
  'prototype',
  'toString',
  'it',
  'today',
  'date(',
  'money(',
  'record',
  'odd',
  'if(',
  '{{',
  '}}',
  'shorten(',
  'first(',
  'plural(',
  'join(',
  'person',
  'title(',
  '"yyyy-MM"',
  '-3',
  '99999999999999999999',
  'add_days(',
);

describe('any input', () => {
  const inputs = fc.oneof(
    fc.string({ maxLength: 200, unit: 'binary' }),
    fc.array(pieces, { maxLength: 40 }).map((p) => p.join('')),
  );

  test('never throws, and never reaches a prototype', () => {
    const before = Object.getOwnPropertyNames(Object.prototype).join();
    fc.assert(
      fc.property(inputs, (source) => {
        const context = newContext(record, localeOf(['de-DE'], ['Europe/Berlin']));
        const parsed = parse(source);
        const value = parsed.ok ? evaluate(compile(parsed.value), context) : undefined;
        expect(typeof value).not.toBe('function');
        expect(value).not.toBe(Object.prototype);
        printRunning(source, context);
        parseRunning(source);
      }),
      { numRuns: 4000 },
    );
    expect(Object.getOwnPropertyNames(Object.prototype).join()).toBe(before);
  });

  test.each([
    ['nested parentheses', '('.repeat(2000) + '1' + ')'.repeat(1999)],
    ['nested nots', 'not '.repeat(900) + 'true'],
    ['a long sum', '1' + '+1'.repeat(1900)],
    ['a text too long', `"${'a'.repeat(5000)}"`],
  ])('%s are refused or worked out, never thrown', (_, source) => {
    const parsed = parse(source);
    if (parsed.ok)
      expect(evaluate(compile(parsed.value), newContext({}, localeOf([], [])))).toBe(1901);
    else expect(parsed.error.message).toMatch(/at most/);
  });

  test('work that multiplies stops at its bound and says why', () => {
    const many = { list: Array.from({ length: 3000 }, (_, i) => ({ i })) };
    const parsed = parse('count(list where (any(list, i = -1)))');
    const context = {
      ...newContext(many, localeOf([], [])),
      reasons: [] as { message: string; start: number; end: number }[],
    };
    expect(parsed.ok && evaluate(compile(parsed.value), context)).toBeUndefined();
    expect(context.reasons[0]?.message).toMatch(/too long/);
  });
});

describe('numbers', () => {
  test('a number prints without an exponent below 1e21 and reads back the same', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, min: -1e20, max: 1e20 }), (x) => {
        expect(plainNumber(x)).not.toMatch(/e/);
        expect(Number(plainNumber(x))).toBe(x + 0);
      }),
    );
  });

  test('rounding works on the decimal writing, half away from zero', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.integer({ min: 0, max: 4 }),
        (n, decimals) => {
          const half = Number(`${n}e-${decimals}`) + 0;
          const beside = Number(`${n}5e-${decimals + 1}`);
          const away = Number(`${n < 0 ? n - 1 : n + 1}e-${decimals}`);
          expect(roundTo(half, decimals)).toBe(half);
          if (n !== 0) expect(roundTo(beside, decimals)).toBe(away);
        },
      ),
    );
  });
});
