import fc from 'fast-check';
import { check } from './check';
import { charactersOf, firstCharacters } from './characters';
import { compile, evaluate } from './compile';
import { newContext } from './context';
import { localeOf } from './locale';
import { printValue } from './members';
import { parse, type Parsed } from './parse';
import { valueOf } from './testing';
import { inferShape } from '../shape';
import type { Fields, Value } from './values';

/** Without its bounds a formula runs for minutes; with them some tens of ms, and much more on a busy machine. */
const MOST_MS = 5_000;

const x = Array.from({ length: 10_000 }, (_, i) => `member ${i}`);
const data: Fields = {
  x,
  records: x.map((name, n) => ({ name, n })),
  emoji: 'e\u0301👍🏽'.repeat(18_000),
  spaces: `${' '.repeat(100_000)}x`,
  gap: `a ${' '.repeat(90_000)}b c`,
  apostrophes: "a'".repeat(45_000),
  html: '<p>&amp;a</p>'.repeat(7_000),
  digits: '1'.repeat(900),
  when: new Date('2026-11-30T09:00:00Z'),
};

function ok(source: string): Extract<Parsed, { ok: true }>['value'] {
  const parsed = parse(source);
  if (!parsed.ok) throw new Error(`${source}: ${parsed.error.message}`);
  return parsed.value;
}

/** The quicker of two runs, in milliseconds: a pause of the machine is no fault of the formula. */
function quickest(work: () => unknown): number {
  const once = () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  };
  return Math.min(once(), once());
}

function run(source: string): Value {
  const context = newContext(data, localeOf(['de-DE'], ['Europe/Berlin']));
  return evaluate(compile(ok(source)), context);
}

/** `any` inside `any`, each over a list that holds the outer member twice. */
function doubled(depth: number, inner: string): string {
  let formula = inner;
  for (let i = 0; i < depth; i++) formula = `any([[it, it]], ${formula})`;
  return `any([1], ${formula})`;
}

const HOSTILE = [
  'sum(x, length(x & ""))',
  'join(x, x)',
  'join(x, spaces)',
  'join(x, x, spaces)',
  'first(sort(x, x & it))',
  'sort(x, spaces)',
  'distinct(x, x)',
  doubled(23, 'it & "" is filled'),
  doubled(23, 'count(distinct([it, it], it)) = 1'),
  doubled(23, 'it = [it]'),
  'length(emoji)',
  'shorten(emoji, 90000)',
  'initials(emoji)',
  'title(apostrophes)',
  'shorten(gap, 80000)',
  'sum(x, length(emoji))',
  'sum(x, if(spaces is filled, 1, 0))',
  'sum(x, length(spaces otherwise ""))',
  'sum(x, if(spaces < it, 1, 0))',
  'sum(x, if(emoji contains it, 1, 0))',
  'sum(x, digits + 0)',
  'sum(x, length(plain(html)))',
  'sum(x, length(date(when, "d. MMMM yyyy HH:mm EEEE")))',
  'sum(x, year(when))',
  'sum(x, count(last(x, 10000)))',
  'sum(x, length(join(records, name)))',
  'sum(x, if(x = x, 1, 0))',
  `one_of(1${', x, 2'.repeat(190)})`,
];

describe('what a formula may take', () => {
  it.each(HOSTILE)('ends soon: %s', (formula) => {
    expect(quickest(() => run(formula))).toBeLessThan(MOST_MS);
  });

  it('ends soon, whatever is nested in whatever', () => {
    const list = fc.constantFrom('x', 'records', 'records.name', '[it, it]', '[emoji, spaces]');
    const text = fc.constantFrom('it', 'emoji', 'spaces', 'gap', 'html', 'it & ""', 'x & it');
    const inner = fc.oneof(
      text.map((t) => `length(${t})`),
      text.map((t) => `upper(${t}) & lower(${t})`),
      fc.tuple(text, text).map(([a, b]) => `if(${a} contains ${b}, 1, 0)`),
      fc.tuple(text, text).map(([a, b]) => `if(${a} >= ${b}, 1, 0)`),
      text.map((t) => `shorten(${t}, 5000)`),
      fc.tuple(list, text).map(([l, t]) => `count(sort(${l}, ${t}))`),
      fc.tuple(list, text).map(([l, t]) => `count(distinct(${l}, ${t}))`),
      fc.tuple(list, text).map(([l, t]) => `count(${l} where (${t} is filled))`),
      fc.tuple(list, text).map(([l, t]) => `length(join(${l}, ${t}))`),
    );
    fc.assert(
      fc.property(list, inner, (l, i) => {
        expect(quickest(() => run(`sum(${l}, ${i})`))).toBeLessThan(MOST_MS);
      }),
      { numRuns: 60 },
    );
  });

  it('prints lists and texts within the bound, and nothing past it', () => {
    const context = newContext(data, localeOf([], []));
    expect(printValue(['a', ['b', 1]], context)).toBe('a, b, 1');
    expect(printValue(x, context)).toBe('');
    expect(printValue('a'.repeat(100_001), context)).toBe('');
  });

  it('still sorts, counts and joins ten thousand members', () => {
    expect(run('first(sort(records, n, "descending")).name')).toBe('member 9999');
    expect(run('last(sort(x, it))')).toBe('member 9999');
    expect(run('count(distinct(x))')).toBe(10_000);
    expect(run('sum(records, n)')).toBe(49_995_000);
  });
});

describe('checking', () => {
  const shape = inferShape([data]);
  it.each([
    ['a long sum', `1${' + 1'.repeat(900)}`],
    ['a long sum of what is unknown', `a${' - b'.repeat(900)}`],
    ['sums in sums', `${'('.repeat(60)}x${' + 1)'.repeat(60)}`],
    ['names that nobody knows', `[${x.slice(0, 800).map((_, i) => `q${i}`)}]`.slice(0, 3990)],
  ])('takes time that grows with the length alone: %s', (_name, source) => {
    const parsed = parse(source.endsWith(']') || !source.startsWith('[') ? source : `${source}]`);
    if (!parsed.ok) throw new Error(parsed.error.message);
    expect(quickest(() => check(parsed.value, shape))).toBeLessThan(MOST_MS);
  });

  it('tells at most fifty things of one formula', () => {
    const names = Array.from({ length: 200 }, (_, i) => `unknown_${i}`).join(', ');
    expect(check(ok(`[${names}]`), shape).findings).toHaveLength(50);
  });
});

describe('negative zero', () => {
  it.each(['money(x, "EUR")', 'number(x)', 'number(x, 2)', 'percent(x)', 'round(x, 2) & ""'])(
    'prints as zero, and leaves the zero of the next recipient alone: %s',
    (formula) => {
      const zero = valueOf(formula, { x: 0 }, 'de-DE');
      for (const total of ['-0.00', -0, '-0', -0.0001]) {
        expect(valueOf(formula, { x: total }, 'de-DE')).toBe(zero);
        expect(valueOf(formula, { x: 0 }, 'de-DE')).toBe(zero);
      }
    },
  );

  it('is kept apart from no other amount: kept results equal those worked out anew', () => {
    const amount = fc.oneof(
      fc.constantFrom(0, -0, -0.001, 0.004, -0.004),
      fc.double({ noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(amount, { maxLength: 30 }), (amounts) => {
        for (const value of amounts) {
          const anew = new Intl.NumberFormat('de-AT', {
            style: 'currency',
            currency: 'EUR',
            signDisplay: 'negative',
          });
          const wanted = Number.isFinite(value) ? anew.format(value) : undefined;
          expect(valueOf('money(x, "EUR")', { x: value }, 'de-AT')).toBe(wanted);
        }
      }),
    );
  });
});

describe('characters', () => {
  const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });
  const whole = (text: string) => Array.from(segmenter.segment(text), (part) => part.segment);
  const piece = fc.constantFrom(
    ...[
      'a',
      'é',
      'e\u0301',
      '👍🏽',
      '👩‍👩‍👧',
      '🇫🇷',
      '🇩',
      '각',
      '\u1100\u1161',
      'क्षि',
      '\r\n',
      '中',
      '\u0600',
      'ﾞ',
    ],
  );
  it('are those of the Unicode Standard, however long the text', () => {
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 600 }), (pieces) => {
        const text = pieces.join('');
        expect(charactersOf(text)).toEqual(whole(text));
        expect(firstCharacters(text, 7)).toEqual(whole(text).slice(0, 7));
      }),
      { numRuns: 60 },
    );
  });
  it('hold together however many marks one of them has', () => {
    const text = `a${'\u0301'.repeat(5000)}b`;
    expect(charactersOf(text)).toEqual(whole(text));
  });
});
