import fc from 'fast-check';
import { check, compile, evaluate, localeOf, newContext, parse } from '.';
import { inferShape } from '../shape';

const TOWNS = ['Alnwick', 'Berwick', 'Corbridge', 'Durham', 'Elsdon', 'Ford', 'Gilsland', 'Hexham'];
const shape = inferShape(
  TOWNS.map((town, i) => ({
    person: {
      town,
      points: i,
      consent: i % 2 === 0,
      code: String(i),
      joined: new Date(i),
      tags: [town],
    },
    cart: { total: i, lines: [{ name: 'bean', price: i + 1, extras: [{ price: 1 }], gift: true }] },
  })),
);

function said(formula: string, use: 'tag' | 'condition' | 'value' = 'value') {
  const parsed = parse(formula);
  if (!parsed.ok) throw new Error(parsed.error.message);
  return check(parsed.value, shape, { use }).findings;
}

test.each([
  ['cart.lines * 2', 'A number is needed here'],
  ['cart.lines > 3', 'How many there are is count(cart.lines)'],
  ['3 <= cart.lines', 'How many there are is count(cart.lines)'],
  ['sum(cart.lines)', 'such as sum(cart.lines, price)'],
  ['max(cart.lines)', 'such as max(cart.lines, price)'],
  ['sum(cart.lines, name)', 'there is no number in it'],
  ['sum(cart.lines.name)', 'there is no number in it'],
  ['sum(cart.lines, gift)', 'is yes or no'],
  ['sum(cart.lines, extras)', 'is a list'],
  ['cart.lines[1].name * 2', 'nothing can be calculated with them'],
  ['person.points * person.town', 'such as “Alnwick”'],
  ['cart.total / 0', 'Nothing can be divided by 0'],
  ['cart.total / (2 - 2)', 'Nothing can be divided by 0'],
  ['person.town = "Alnwik"', 'Nothing has the value “Alnwik” now'],
])('%s is told: %s', (formula, part) => {
  expect(
    said(formula)
      .map(({ message }) => message)
      .join(),
  ).toContain(part);
});

test('what a list is asked for, and a value that was mistyped, are mended in one click', () => {
  expect(said('cart.lines > 3')[0]?.repair?.text).toBe('count(cart.lines)');
  expect(said('sum(cart.lines)')[0]?.repair?.text).toBe('sum(cart.lines, price)');
  expect(said('person.town = "Alnwik"')[0]?.repair?.text).toBe('"Alnwick"');
});

test.each([
  'cart.total > 5 and cart.total < 3',
  'person.town = "Ford" and person.town = "Durham"',
  'person.town is filled and person.town is empty',
  'count(cart.lines) < 0',
  'count(cart.lines) > 1 and count(cart.lines) < 2',
  'person.consent and not person.consent',
  'person.points > 3 and person.consent and person.points <= 3',
  'not (person.points = person.points)',
  '1 = 2',
  'false',
  'person.joined > "2026-03-01" and person.joined < "2026-02-01"',
])('%s never holds', (formula) => {
  expect(said(formula, 'condition')[0]?.message).toBe(
    'This condition never holds, whatever the data is.',
  );
});

test.each([
  'person.town != "Ford" or person.town != "Durham"',
  'person.points = person.points',
  'count(cart.lines) >= 0',
  'cart.total is empty or cart.total is filled or person.consent',
  '1 < 2',
  'true',
])('%s always holds', (formula) => {
  expect(said(formula, 'condition')[0]?.message).toBe(
    'This condition always holds, whatever the data is.',
  );
});

test('a part of a condition that decides nothing is told with its words, once', () => {
  const findings = said('person.consent or (cart.total > 5 and cart.total < 3)', 'condition');
  expect(findings.map(({ message }) => message)).toEqual([
    '“cart.total > 5 and cart.total < 3” never holds, whatever the data is.',
  ]);
});

test.each([
  'cart.total > 3 and cart.total < 5',
  'cart.total > 3 or cart.total <= 3',
  'person.town = "Ford" or person.town = "Durham"',
  'person.town contains "a" and person.town starts with "b"',
  'person.town != "Ford" and person.town != "Durham"',
  'count(cart.lines) >= 1',
  'person.code * 2 > 5',
  'person.tags contains "Ford" and person.tags contains "Durham"',
  'person.joined > "2026-01-01" and person.joined < "2026-02-01"',
  '(person.points otherwise 0) >= 0',
  'person.consent',
  'sum(cart.lines, price * 2) > 0',
  'cart.total / 100 > 50',
])('%s is left alone', (formula) => {
  expect(said(formula, 'condition')).toEqual([]);
});

test('what is said to hold always or never does so for any number, text or nothing', () => {
  const number = fc.integer({ min: -4, max: 4 });
  const atom = fc.oneof(
    fc
      .tuple(fc.constantFrom('=', '!=', '<', '<=', '>', '>='), number)
      .map(([op, n]) => `x ${op} ${n}`),
    fc
      .tuple(fc.constantFrom('=', '!=', 'contains', 'starts with'), fc.constantFrom('a', 'b', 'ab'))
      .map(([op, text]) => `x ${op} "${text}"`),
    fc.constantFrom('x is filled', 'x is empty', 'x'),
  );
  const { condition } = fc.letrec<{ condition: string }>((tie) => ({
    condition: fc.oneof(
      { maxDepth: 3 },
      atom,
      fc
        .tuple(tie('condition'), fc.constantFrom('and', 'or'), tie('condition'))
        .map(([left, op, right]) => `(${left} ${op} ${right})`),
      tie('condition').map((of) => `not (${of})`),
    ),
  }));
  const value = fc.oneof(
    fc.double({ min: -6, max: 6, noNaN: true }),
    fc.string({ unit: fc.constantFrom('a', 'b', 'c', '1'), maxLength: 4 }),
    fc.constantFrom(undefined, true, false),
  );
  const locale = localeOf(['en'], ['UTC']);
  fc.assert(
    fc.property(condition, value, (formula, x) => {
      const parsed = parse(formula);
      if (!parsed.ok) throw new Error(parsed.error.message);
      const any = {
        kind: 'record' as const,
        fields: { x: { shape: { kind: 'any' as const }, filled: 1, of: 1, samples: [] } },
      };
      const told = check(parsed.value, any, { use: 'condition' }).findings.find(({ message }) =>
        message.startsWith('This condition'),
      );
      if (!told) return;
      const holds = evaluate(compile(parsed.value), newContext({ x }, locale)) === true;
      expect(holds).toBe(told.message.includes('always'));
    }),
    { numRuns: 2_000 },
  );
});
