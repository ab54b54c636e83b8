import fc from 'fast-check';
import { compile, evaluate, localeOf, newContext, parsedFormula, toValue } from '../formula';
import {
  COMPARISONS,
  comparisonsFor,
  formulaSentence,
  sentenceFormula,
  type Clause,
  type Members,
  type Part,
  type Sentence,
} from '.';

const holds = (formula: string, record: object): boolean => {
  const parsed = parsedFormula(formula);
  if (!parsed.ok) throw new Error(`${formula}: ${parsed.error.message}`);
  const context = newContext(record as never, localeOf(['en-GB'], ['UTC']));
  context.clock = {
    now: toValue(new Date('2026-06-15T09:00:00Z')),
    today: toValue(new Date('2026-06-15T00:00:00Z')),
  };
  return evaluate(compile(parsed.value), context) === true;
};

describe('a formula as a sentence', () => {
  test.each<[string, Sentence['of'], number]>([
    ['cart.total >= 50', 'all', 1],
    ['cart.total >= 50 and person.country in ["FR", "DE"]', 'all', 2],
    ['person.consent or not person.guest', 'any', 2],
    ['not (a is filled or b = "x")', 'none', 2],
    ['a = 1 and (b = 2 or c = 3) and d = 4', 'all', 3],
    ['count(cart.lines) >= 2', 'all', 1],
    ['person.joined >= add_days(today, -30)', 'all', 1],
    ['any(posts, at > (occasion.last_mail_at otherwise add_days(now, -31)))', 'all', 1],
    ['person["shoe size"] = 42', 'all', 1],
    ['any(cart.lines, price > 3)', 'all', 1],
    ['a = 1 or not any(cart.lines, price > 3 and category = "Seeds")', 'any', 2],
    ['not every(cart.lines, gift)', 'none', 1],
    ['every(order.lines, any(properties, name = "Engraved"))', 'all', 1],
    ['', 'all', 0],
  ])('%s', (formula, of, parts) => {
    expect(formulaSentence(formula)).toMatchObject({ of });
    expect(formulaSentence(formula)?.parts).toHaveLength(parts);
  });
  test.each([
    'cart.total + 1 > 3',
    'any(first(cart.lines, 2), price > 3)',
    'any(cart.lines, price > discount)',
    'any(cart.lines, upper(name) = "X")',
    'a = b',
    'upper(name) = "X"',
    'cart.lines[1].name = "x"',
    '3 < a',
    'a in [1, "x"]',
    'a > (occasion.last_mail_at otherwise add_days(now, 31))',
    'a > (occasion.entered_at otherwise add_days(now, -31))',
    'a =',
    'days_between(today, a) < 3',
  ])('%s stays a formula', (formula) => expect(formulaSentence(formula)).toBeNull());
});

describe('a sentence as a formula', () => {
  const clause = (field: string, comparison: string, ...values: string[]): Clause => ({
    ...{ field, comparison, values },
  });
  test('its unfinished clauses ask nothing', () => {
    const sentence: Sentence = {
      of: 'all',
      parts: [
        clause('cart.total', 'at_least', '50'),
        clause('cart.total', 'at_most', ''),
        clause('person.country', 'one_of'),
        clause('', 'is', 'x'),
        { of: 'any', parts: [clause('a', 'within_last', 'many')] },
      ],
    };
    expect(sentenceFormula(sentence)).toBe('cart.total >= 50');
    expect(sentenceFormula({ of: 'any', parts: [] })).toBe('');
  });
  test.each<[Clause, object, object]>([
    [clause('a', 'is', 'Fr "x"'), { a: 'fr "X"' }, { a: 'de' }],
    [clause('a', 'none_of', 'x', 'y'), { a: 'z' }, { a: 'y' }],
    [clause('a', 'contains', 'pot'), { a: 'Long pot' }, { a: 'pan' }],
    [clause('a', 'contains', 'vip'), { a: ['vip'] }, { a: [] }],
    [clause('a', 'under', '-2.5'), { a: -3 }, { a: 0 }],
    [clause('a', 'no'), { a: false }, { a: true }],
    [clause('a', 'blank'), { a: ' ' }, { a: 'x' }],
    [
      clause('a', 'within_last', '30'),
      { a: new Date('2026-06-01') },
      { a: new Date('2026-05-01') },
    ],
    [clause('a', 'longer_ago', '30'), { a: new Date('2026-05-01') }, { a: new Date('2026-06-01') }],
    [clause('a', 'later', '10'), { a: new Date('2026-07-01') }, { a: new Date('2026-06-20') }],
    [
      clause('a', 'before', '2026-06-01'),
      { a: new Date('2026-05-01') },
      { a: new Date('2026-06-02') },
    ],
    [
      clause('a', 'since_mail', '31'),
      { a: new Date('2026-06-10'), occasion: { last_mail_at: new Date('2026-06-09') } },
      { a: new Date('2026-06-10'), occasion: { last_mail_at: new Date('2026-06-11') } },
    ],
    [
      clause('a', 'since_mail', '31'),
      { a: new Date('2026-05-20'), occasion: {} },
      { a: new Date('2026-05-10'), occasion: {} },
    ],
    [clause('count(a)', 'at_least', '2'), { a: [1, 2] }, { a: [1] }],
  ])('%j holds for %j and not for %j', (one, yes, no) => {
    const formula = sentenceFormula({ of: 'all', parts: [one] });
    expect([holds(formula, yes), holds(formula, no)]).toEqual([true, false]);
    const none = sentenceFormula({ of: 'none', parts: [one] });
    expect([holds(none, yes), holds(none, no)]).toEqual([false, true]);
  });

  const value = {
    nothing: fc.constant<string[]>([]),
    text: fc.string({ minLength: 1 }).map((text) => [text]),
    texts: fc.array(fc.string({ minLength: 1 }), { minLength: 1, maxLength: 3 }),
    number: fc.integer({ min: -1000, max: 1000 }).map((n) => [String(n / 4)]),
    days: fc.integer({ min: 0, max: 999 }).map((n) => [String(n)]),
    date: fc.constantFrom('2026-01-31', '1999-12-01').map((day) => [day]),
  };
  const anyClause = fc.constantFrom(...COMPARISONS).chain(({ id, wants }) =>
    fc.record({
      field: fc.constantFrom('a', 'cart.total', 'person["shoe size"]'),
      comparison: fc.constant(id),
      values: value[wants],
    }),
  );
  const { sentence } = fc.letrec<{ sentence: Sentence; part: Part; members: Members }>((tie) => ({
    part: fc.oneof(
      { depthSize: 'small', maxDepth: 3, withCrossShrink: true },
      anyClause,
      tie('sentence'),
      tie('members'),
    ),
    members: fc.record({
      list: fc.constantFrom('cart.lines', 'lines', 'person["old carts"]'),
      how: fc.constantFrom('any' as const, 'every' as const, 'none' as const),
      where: tie('sentence'),
    }),
    sentence: fc.record({
      of: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
      parts: fc.array(tie('part'), { minLength: 1, maxLength: 3 }),
    }),
  }));

  test('comes back as a sentence that says the same, and stays as it is from then on', () => {
    fc.assert(
      fc.property(sentence, (given) => {
        const formula = sentenceFormula(given);
        expect(parsedFormula(formula).ok).toBe(true);
        const back = formulaSentence(formula);
        if (!back) throw new Error(`${formula} is no sentence any more.`);
        expect(sentenceFormula(back)).toBe(formula);
      }),
      { numRuns: 500 },
    );
  });
});

test.each<[Members['how'], number[], boolean]>([
  ['any', [1, 9], true],
  ['any', [1, 2], false],
  ['any', [], false],
  ['every', [9, 8], true],
  ['every', [1, 9], false],
  ['none', [1, 2], true],
  ['none', [1, 9], false],
  ['none', [], true],
])('%s of lines at %j over 5 in Seeds: %s', (how, prices, expected) => {
  const where: Sentence = {
    of: 'all',
    parts: [
      { field: 'price', comparison: 'over', values: ['5'] },
      { field: 'category', comparison: 'is', values: ['Seeds'] },
    ],
  };
  const formula = sentenceFormula({ of: 'all', parts: [{ list: 'lines', how, where }] });
  expect(formulaSentence(formula)?.parts).toEqual([{ list: 'lines', how, where }]);
  const lines = prices.map((price) => ({ price, category: 'Seeds' }));
  expect(holds(formula, { lines })).toBe(expected);
});

test('of members that nothing is asked of yet nothing is written', () => {
  const where: Sentence = { of: 'all', parts: [{ field: '', comparison: '', values: [] }] };
  expect(sentenceFormula({ of: 'all', parts: [{ list: 'lines', how: 'any', where }] })).toBe('');
});

test('every kind of field has comparisons, each read back as itself', () => {
  for (const kind of ['text', 'number', 'boolean', 'date', 'list', 'any'] as const)
    expect(comparisonsFor(kind).length).toBeGreaterThan(1);
});
