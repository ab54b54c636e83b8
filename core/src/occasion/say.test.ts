import { allSteps, type Occasion } from './occasion';
import { presets, type PresetTemplates } from './presets';
import { problemsOf, type Known } from './problems';
import { sayFormula, sayStart, sayStep, sayWhom } from './say';
import { FIRST_RULES } from './shopRules';
import { at, guard, occasion, send, wait } from './testing';
import { timelineOf } from './timeline';

const NAMED = new Proxy({}, { get: (_, name) => name }) as PresetTemplates;
const names = { template: (id: string) => id };
const HOUR = 3_600_000;

const KNOWN: Known = {
  ...{
    published: new Set(['t']),
    templates: new Map([
      ['t', 'The bench'],
      ['draft', 'A draft'],
    ]),
  },
  ...{ segments: new Set(['Regulars']), feeds: new Set(['furrow']), others: [] },
  unwritten: new Map(),
};

test('the shipped occasions read as sentences, and are sound', () => {
  const told = presets(NAMED).map((one) => [
    ...[one.name, sayStart(one, FIRST_RULES), sayWhom(one)],
    ...allSteps(one.steps).map((step) => sayStep(step, names)),
  ]);
  expect(told).toHaveLength(8);
  expect(told[0]).toEqual([
    ...['Cart left', 'When a cart has been quiet for 1 hour'],
    'For people where cart count is at least 2, who have not received it within 14 days',
    ...['Wait 3 hours', 'Only if they have not ordered since; else stop'],
    ...['Send “cart_first”, held for approval', 'Wait 1 day'],
    'Only if cart is filled and they have not ordered since; else stop',
    'Send “cart_second”, held for approval',
  ]);
  expect(told[3]?.[1]).toBe('When an order has been “Awaiting payment” for 1 day');
  expect(told[4]?.[4]).toBe('Wait until 09:00, Tuesday, Wednesday and Thursday');
  expect(told[6]?.[1]).toBe('Every month on day 1 at 08:00 by each person’s clock');
  expect(told[6]?.[3]).toBe(
    'Only if for at least one of feeds furrow posts published is since the last email, or within the last 31 days; else stop',
  );
  // Nothing that is shipped shows a formula where a sentence belongs.
  expect(told.flat().filter((line) => line && /[()=<>]/.test(line))).toEqual([]);
  const all = new Set(
    presets(NAMED).flatMap(({ steps }) =>
      allSteps(steps).flatMap((one) => ('template' in one ? [one.template] : [])),
    ),
  );
  for (const one of presets(NAMED))
    expect(
      problemsOf(one, {
        ...KNOWN,
        published: all,
        templates: new Map([...all].map((id) => [id, id])),
      }),
    ).toEqual([]);
});

test('conditions in words; what no sentence says stands as it is', () => {
  expect(sayFormula('count(cart.lines) > 2 or person.country in ["DE", "FR"]')).toBe(
    'how many cart lines is more than 2 or country is one of DE, FR',
  );
  expect(sayFormula('any(cart.lines, category = "Seeds" and price > 5) and cart.total > 9')).toBe(
    'for at least one of cart lines (category is Seeds and price is more than 5) and cart total is more than 9',
  );
  expect(sayFormula('not any(order.lines, gift)')).toBe('for none of order lines gift is yes');
  expect(sayFormula('not (cart is filled or occasion.cart_changed)')).toBe(
    'neither cart is filled nor the cart changed since',
  );
  expect(sayFormula('any(cart.lines, price > was)')).toBe('any(cart.lines, price > was)');
  expect(sayStep(guard('g', 'cart is filled', 'ask_again'), names)).toBe(
    'Only if cart is filled; else ask again every day, for 7 days at most',
  );
});

test('the time line shows the quiet time and the waits as they add up', () => {
  const steps = [wait('w', 3), send('a'), wait('w2', 1, 'days'), send('b')];
  const { quiet, hung } = timelineOf(occasion({ steps }), FIRST_RULES, {
    ...{ begin: at('10T10:00'), zone: 'Europe/London' },
  });
  expect(quiet).toBe(HOUR);
  expect(hung.map(({ step, from }) => [step.id, from / HOUR])).toEqual([
    ...[
      ['w', 1],
      ['a', 4],
      ['w2', 4],
      ['b', 28],
    ],
  ]);
  const branch = {
    ...{ id: 'x', kind: 'branch' as const, otherwise: [send('d')] },
    ways: [{ when: 'cart is filled', steps: [wait('v', 5), send('c')] }],
  };
  const both = timelineOf(occasion({ steps: [branch, send('e')] }), FIRST_RULES, {
    ...{ begin: at('10T10:00'), zone: 'UTC' },
  });
  expect(both.hung.map(({ step, from, depth, way }) => [step.id, from / HOUR, depth, way])).toEqual(
    [
      ...[
        ['x', 1, 0, undefined],
        ['v', 1, 1, 0],
        ['c', 6, 1, 0],
        ['d', 1, 1, 1],
      ],
      ['e', 6, 0, undefined],
    ],
  );
});

const messages = (one: Occasion, known: Partial<Known> = {}) =>
  problemsOf(one, { ...KNOWN, ...known }).map(({ message }) => message);

test('what is wrong is said with the way out', () => {
  expect(messages(occasion({ steps: [send('a')] }))).toEqual([]);
  expect(messages(occasion({ steps: [] }))).toEqual(['Nothing is sent: add a step that sends.']);
  const wrong = occasion({
    ...{ start: { kind: 'segment_changed', segment: 'Gone', change: 'entered' } },
    whom: { guests: true, segment: 'Lost', where: 'cart.count >' },
    steps: [
      ...[guard('g', ''), guard('h', 'cart (')],
      ...[send('a', { template: 'deleted' }), send('b', { template: 'draft' })],
    ],
  });
  expect(messages(wrong)).toEqual([
    'The segment “Gone” no longer exists. Choose another.',
    'The segment “Lost” no longer exists. Choose another, or remove it.',
    expect.stringMatching(/^The condition for who gets it cannot be read: /),
    'Enter a condition.',
    expect.stringMatching(/^This condition cannot be read: /),
    'The template of this step was deleted. Choose another.',
    '“A draft” was never published. Publish it first.',
  ]);
  const start = { kind: 'order_placed' as const, which: 'product' as const };
  expect(messages(occasion({ start, steps: [send('a')] }))).toEqual(['Choose the products.']);
  const feed = { kind: 'post_published' as const, feed: '' };
  expect(messages(occasion({ start: feed, steps: [send('a')] }))).toEqual(['Choose a feed.']);
});

test('two occasions that confirm one order are warned of', () => {
  const confirm = occasion({
    ...{ name: 'Confirm', start: { kind: 'order_placed', which: 'any' } },
    steps: [send('a', { mail: 'service' })],
  });
  expect(problemsOf(confirm, { ...KNOWN, others: [confirm] })).toEqual([
    {
      severity: 'warning',
      step: null,
      message: expect.stringMatching(/two confirmations/) as string,
    },
  ]);
});
