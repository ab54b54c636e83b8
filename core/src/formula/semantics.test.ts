import fc from 'fast-check';
import { parse, print } from '.';
import { valueOf } from './testing';

const day = new Date('2026-03-01T00:00:00Z');

function table(
  name: string,
  rows: [string, unknown][],
  record: Record<string, unknown> = {},
): void {
  describe(name, () => {
    test.each(rows)('%s', (formula, value) => {
      expect(valueOf(formula, record)).toEqual(value);
    });
  });
}

table(
  'equality',
  [
    ['1 = 1.0', true],
    ['"1" = 1', true],
    ['"1.0" = "1"', false],
    ['"é" = "e\u0301"', true],
    ['" Ada " is "ada"', true],
    ['true = true', true],
    ['true = "true"', false],
    ['missing = ""', false],
    ['missing != 1', true],
    ['[1, "A"] = ["1", "a "]', true],
    ['[1, 2] = [2, 1]', false],
    ['[] = []', true],
    ['a = a', true],
    ['a = b', false],
    ['day = "2026-03-01"', true],
    ['day = "2026-03-01T01:00:00+01:00"', true],
    ['day = "the first of March"', false],
    ['day != "the first of March"', true],
    ['day = 1', false],
  ],
  { a: { x: 1 }, b: { x: 1 }, day },
);

table(
  'order',
  [
    ['"9" < 10', true],
    ['"9" < "10"', false],
    ['"apple" < "Banana"', true],
    ['"ä" > "z"', true],
    ['day < "2026-03-02"', true],
    ['day >= "2026-03-01"', true],
    ['day < 5', false],
    ['missing < 1', false],
    ['missing >= missing', false],
    ['true < false', false],
    ['[1] < [2]', false],
    ['"\u{1F600}" > "\uFFFD"', true],
  ],
  { day },
);

table(
  'blank and fallbacks',
  [
    ['missing is empty', true],
    ['"  " is empty', true],
    ['[] is empty', true],
    ['0 is empty', false],
    ['false is filled', true],
    ['r is filled', true],
    ['"" otherwise [] otherwise 0', 0],
    ['x otherwise 1 + 1', 2],
    ['-x otherwise 3', -3],
    ['"" otherwise ""', ''],
  ],
  { r: {} },
);

table(
  'paths and indexes',
  [
    ['lines.name', ['a', 'c']],
    ['lines[2].name', undefined],
    ['lines[-1].name', 'c'],
    ['lines[1.5]', undefined],
    ['lines["1"]', undefined],
    ['record["odd name"].x', 1],
    ['record["where"]', 'here'],
    ['text.length', undefined],
    ['text[1]', undefined],
    ['lines.length', []],
    ['lines.constructor', []],
    ['nested.name', []],
  ],
  {
    lines: [{ name: 'a' }, {}, { name: 'c' }],
    'odd name': { x: 1 },
    where: 'here',
    text: 'abc',
    nested: [[{ name: 'x' }]],
  },
);

table(
  'arithmetic',
  [
    ['"12.50" * 2', 25],
    ['" 12" + 1', undefined],
    ['"1e2" + 1', 101],
    ['0.1 * 3', 0.3],
    ['1 / 3', 0.3333333333],
    ['-1 / 3', -0.3333333333],
    ['2 / 0', undefined],
    ['true + 1', undefined],
    ['missing + 1', undefined],
    ['-"3"', -3],
    ['0 - 0', 0],
    ['99999999999999999999 * 99999999999999999999 / missing', undefined],
    ['day + 1 - day', 1],
    ['1 + day', undefined],
    ['day * 2', undefined],
    ['day - "2026-02-28"', undefined],
  ],
  { day },
);

table('booleans', [
  ['not 1', true],
  ['not true or true', true],
  ['true and not false', true],
  ['1 or "yes"', false],
  ['true or missing.x.y', true],
  ['not not true', true],
]);

table(
  'membership and text',
  [
    ['2 in ["2", 3]', true],
    ['"b" in r', false],
    ['x not in [1]', true],
    ['[1, 2] contains "2"', true],
    ['"Potting bench" contains "BENCH"', true],
    ['"a" contains missing', false],
    ['"  abc" starts with "a"', true],
    ['"abc " ends with "c"', true],
    ['"abc" starts with " a"', false],
    ['1 contains 1', false],
    ['"a" & 1 & missing & true & [1, "b"]', 'a1true1, b'],
  ],
  { r: { b: 1 } },
);

table(
  'where and scopes',
  [
    ['count(list where (n > outer))', 2],
    ['list where (it.n = 3)', [{ n: 3 }]],
    ['numbers where (it > 1)', [2, 3]],
    ['count(list where (any(tags, it is "x")))', 0],
    ['one where (a = 1)', [{ a: 1 }]],
    ['5 where (true)', undefined],
    ['missing where (true)', undefined],
    ['sum(list, n * outer)', 6],
    ['list where (n > 1) where (n < 3)', [{ n: 2 }]],
    ['join(list, join(numbers, it, "/"), " ")', '1/2/3 1/2/3 1/2/3'],
  ],
  { list: [{ n: 1 }, { n: 2 }, { n: 3 }], outer: 1, numbers: [1, 2, 3], one: { a: 1 } },
);

describe('choices are worked out only where they are chosen', () => {
  test.each([
    ['if(true, 1, sum(missing.x))', 1],
    ['if("yes", 1, 2)', 2],
    ['if(false, 1)', undefined],
    ['one_of("B", "a", 1, "b", 2)', 2],
    ['one_of(3, 1, "one", 2, "two", "many")', 'many'],
    ['one_of(3, 1, "one")', undefined],
    ['plural(1, "# Stück", "# Stücke")', '1 Stück'],
    ['plural(0, "one", "many")', 'many'],
    ['plural("x", "one", "many")', undefined],
  ])('%s', (formula, value) => {
    expect(valueOf(formula)).toEqual(value);
  });

  test('plural goes by the recipient’s language', () => {
    expect(valueOf('plural(0, "one", "many")', {}, 'fr-FR')).toBe('one');
  });
});

describe('canonical text', () => {
  test.each([
    ['  a=1  ', 'a = 1'],
    ['a is "x"', 'a is "x"'],
    ['a != "x"', 'a is not "x"'],
    ['((a+b))*c', '(a + b) * c'],
    ['a+(b*c)', 'a + b * c'],
    ['not(a and b)', 'not (a and b)'],
    ['(a otherwise b).c', '(a otherwise b).c'],
    ['x where(y>1)', 'x where (y > 1)'],
    ['"a\\"b\\\\\\n"', '"a\\"b\\\\\\n"'],
    ['[1,2 ,3]', '[1, 2, 3]'],
    ['a-(b-c)', 'a - (b - c)'],
    ['--1', '--1'],
    ['1.50', '1.5'],
  ])('%s becomes %s', (source, canonical) => {
    const parsed = parse(source);
    expect(parsed.ok && print(parsed.value)).toBe(canonical);
  });
});

describe('errors name the first character that cannot stand', () => {
  test.each([
    ['a.b.', 5],
    ['a[1', 4],
    ['sum(a', 6],
    ['é + ', 5],
    ['"😀" &', 6],
    ['a # b', 3],
    ['a starts b', 10],
    ['a not b', 7],
    ['"a\\q"', 4],
    ['where', 1],
    ['a and and b', 7],
    ['[1, ]', 5],
    ['a = b < c', 7],
    ['1.', 3],
  ])('%s at column %d', (source, column) => {
    const parsed = parse(source);
    expect(parsed.ok ? 'parsed' : parsed.error.column).toBe(column);
  });
});

describe('laws', () => {
  const value = fc.oneof(
    fc.integer({ min: -1000, max: 1000 }),
    fc.string({ maxLength: 8 }),
    fc.boolean(),
    fc.constant(null),
    fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 4 }),
  );

  test('equality is symmetric, and != its opposite', () => {
    fc.assert(
      fc.property(value, value, (a, b) => {
        const equal = valueOf('a = b', { a, b });
        expect(valueOf('b = a', { a, b })).toBe(equal);
        expect(valueOf('a != b', { a, b })).toBe(!equal);
      }),
    );
  });

  test('of two numbers exactly one of <, =, > holds', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true }), fc.double({ noNaN: true }), (a, b) => {
        fc.pre(Number.isFinite(a) && Number.isFinite(b));
        const held = ['a < b', 'a = b', 'a > b'].filter(
          (formula) => valueOf(formula, { a, b }) === true,
        );
        expect(held).toHaveLength(1);
      }),
    );
  });

  test('sorting keeps every member and puts blanks last; distinct keeps the first of equals', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.integer(), fc.constant(null)), { maxLength: 20 }),
        (list) => {
          const sorted = valueOf('sort(list, it)', { list }) as (number | undefined)[];
          expect(sorted).toHaveLength(list.length);
          const numbers = list.filter((n) => n !== null).sort((a, b) => a - b);
          expect(sorted.slice(0, numbers.length)).toEqual(numbers);
          const once = valueOf('distinct(list)', { list: numbers }) as number[];
          expect(once).toEqual([...new Set(numbers)]);
        },
      ),
    );
  });

  test('shorten never gives more characters than asked for', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), fc.integer({ min: 1, max: 40 }), (text, n) => {
        const short = valueOf('shorten(text, n)', { text, n }) as string;
        expect([...new Intl.Segmenter('en').segment(short)].length).toBeLessThanOrEqual(n);
      }),
    );
  });
});
