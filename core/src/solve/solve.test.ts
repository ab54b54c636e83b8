import fc from 'fast-check';
import { build } from '../build';
import { compile, evaluate, parsedFormula } from '../formula';
import type { PersonData } from '../record';
import { contextFor, prepare, Tally } from '../render';
import { blankTemplate, composer, countedIds, LAYOUTS, type Template } from '../template';
import { reachOf, isReached } from '../variant';
import { literalsOf } from './literals';
import { NOBODY, solve, type Target } from '.';
import { now, products, record } from './testing';

async function made(template: Template, target: Target) {
  const { program } = await build(template);
  return {
    program,
    solved: solve(
      { template, program, products, now, currency: 'GBP', starts: [NOBODY], record },
      target,
    ),
  };
}

/** Whether somebody sees a node, asked of a mail that is filled anew. */
async function sees(template: Template, data: PersonData, node: string): Promise<boolean> {
  const { program } = await build(template);
  const tally = new Tally();
  prepare(program, { tally })(record(data), { asOf: now });
  const reached = reachOf(template, tally.decisions).find((one) => one.node.id === node);
  return reached !== undefined && isReached(reached.needed, tally.bits);
}

const c = composer(countedIds());
const gated = (when: string) =>
  blankTemplate('T', 's', [
    c.section('S', [{ ...c.text('yes', { id: 'yes', when }), else: c.text('no', { id: 'no' }) }]),
  ]);

test.each([
  'cart.total >= 50',
  'cart.total < 1 and count(cart.lines) = 1',
  'count(cart.lines) > 3',
  'person.country in ["France", "Germany"] and person.consent',
  'person.first_name is filled and not (person.first_name = "Alex")',
  'days_between(person.last_order_at, today) > 90',
  'any(cart.lines, category = "Tools")',
  'every(cart.lines, in_stock = false) and count(cart.lines) = 2',
  'person.orders_count >= 5 and person.rank = 1',
  'order.status = "Shipped"',
  'person.first_name starts with "Z" or person.tags contains "vip"',
])('somebody is made for whom “%s” holds, and somebody for whom it does not', async (when) => {
  for (const node of ['yes', 'no']) {
    const template = gated(when);
    const { solved } = await made(template, { node });
    expect(solved).toMatchObject({ ok: true });
    if (solved.ok) expect(await sees(template, solved.data, node)).toBe(true);
  }
});

test('what nothing about a person can bring about says what it would take', async () => {
  const { solved } = await made(gated('shop.currency = "USD"'), { node: 'yes' });
  expect(solved).toEqual({ ok: false, why: expect.stringMatching(/the same for everybody/) });
  const never = await made(gated('cart.total > 5 and cart.total < 4'), { node: 'yes' });
  expect(never.solved).toEqual({
    ok: false,
    why: expect.stringMatching(/never holds, whatever the data is/),
  });
});

test('an outcome of a list inside a condition is reached, with what is around it', async () => {
  const template = blankTemplate('T', 's', [
    c.section('S', [c.text('x', { id: 'l', loop: { list: 'cart.lines', as: 'line' } })], {
      when: 'person.consent',
    }),
  ]);
  for (const outcome of ['none', 'one', 'three', 'many'] as const) {
    const { solved } = await made(template, {
      decision: { kind: 'list', node: 'l', path: 'loop' },
      outcome,
    });
    expect(solved).toMatchObject({ ok: true });
  }
});

test('every branch of the shipped layouts has somebody', async () => {
  for (const { sections } of LAYOUTS) {
    const template = blankTemplate(
      'T',
      's',
      sections(countedIds(), {
        ...{ id: 's', url: 'https://s.example', address: 'x', catalogs: ['garden'] },
        ...{ feeds: [], rules: [] },
      } as never),
    );
    const tally = new Tally();
    prepare((await build(template)).program, { tally });
    for (const { node } of reachOf(template, tally.decisions)) {
      const { solved } = await made(template, { node: node.id });
      expect(solved).toMatchObject({ ok: true });
    }
  }
}, 60_000);

const atom = fc.oneof(
  fc
    .tuple(fc.constantFrom('>', '>=', '<', '=', '!='), fc.integer({ min: 1, max: 90 }))
    .map(([op, n]) => `cart.total ${op} ${n}`),
  fc
    .tuple(fc.constantFrom('>', '=', '<='), fc.integer({ min: 1, max: 6 }))
    .map(([op, n]) => `count(cart.lines) ${op} ${n}`),
  fc.constantFrom('France', 'Peru').map((one) => `person.country = "${one}"`),
  fc.constantFrom(
    'person.consent',
    'person.first_name is filled',
    'order is empty',
    'cart is filled',
  ),
  fc.integer({ min: 0, max: 4 }).map((n) => `person.orders_count > ${n}`),
  fc.constantFrom('Pots', 'Seeds').map((one) => `any(cart.lines, category = "${one}")`),
);
const { condition } = fc.letrec<{ condition: string }>((tie) => ({
  condition: fc.oneof(
    { depthSize: 'small', maxDepth: 2 },
    atom,
    fc
      .tuple(tie('condition'), fc.constantFrom('and', 'or'), tie('condition'))
      .map(([a, op, b]) => `(${a} ${op} ${b})`),
    tie('condition').map((one) => `not (${one})`),
  ),
}));

/** People of all kinds, against whom it is found out whether a condition can hold at all. */
function crowd(): PersonData[] {
  const people: PersonData[] = [];
  for (const lines of [0, 1, 2, 4, 6])
    for (const price of [0.5, 8, 30, 95])
      for (const orders of [0, 1, 3, 6])
        for (const some of [true, false]) {
          const product = products[lines % 2] ?? {};
          const line = {
            ...product,
            sku: String(product['sku']),
            name: 'x',
            price,
            quantity: 1,
            total: price,
            properties: [],
          };
          const at = '2026-11-20T10:00:00Z';
          people.push({
            person: {
              ...NOBODY.person,
              ...(some && { first_name: 'Ada', consent: true, country: 'France' }),
            },
            shopper: {
              ...NOBODY.shopper,
              cart:
                lines === 0
                  ? null
                  : {
                      id: 'c',
                      started_at: at,
                      updated_at: at,
                      currency: 'GBP',
                      lines: Array.from({ length: lines }, () => line),
                    },
              orders: Array.from({ length: orders }, (_, i) => ({
                number: `${i}`,
                placed_at: at,
                status: 'Paid',
                currency: 'GBP',
                lines: [],
                subtotal: 1,
                total: 1,
              })),
            },
          });
        }
  return people;
}

test('of 200 random conditions, each that can hold and fail has somebody for both', async () => {
  const records = crowd().map(record);
  const conditions = fc.sample(condition, { numRuns: 200, seed: 11 });
  for (const when of conditions) {
    const parsed = parsedFormula(when);
    if (!parsed.ok) throw new Error(when);
    const compiled = compile(parsed.value);
    const values = records.map(
      (one) => evaluate(compiled, contextFor(one, { asOf: now })) === true,
    );
    const template = gated(when);
    for (const [node, can] of [
      ['yes', values.includes(true)],
      ['no', values.includes(false)],
    ] as const) {
      if (!can) continue;
      const { solved } = await made(template, { node });
      if (!solved.ok) throw new Error(`${node} of ${when}: ${solved.why}`);
      expect(await sees(template, solved.data, node)).toBe(true);
    }
  }
}, 300_000);

test('literals are found in formulas and in running text', () => {
  expect(literalsOf(['a > 3 and b = "x"', 'Hello {{ c otherwise "y" }} 5'])).toEqual({
    ...{ numbers: [3], texts: ['x', 'y'], asksCalendar: false, asksLength: false },
  });
  expect(literalsOf(['year(a) = 2015 and length(b) > 9'])).toMatchObject({
    ...{ asksCalendar: true, asksLength: true },
  });
  // Of what is multiplied by 2 to come to 50, 25 is tried.
  expect(literalsOf(['a * 2 = 50']).numbers).toContain(25);
});
