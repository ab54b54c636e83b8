import fc from 'fast-check';
import { historyOf, pick, pickRecord, shopOf, STEPS, stepKind, type Asked, type Rule } from '.';
import { orderedCount } from './history';
import { pairsOf, sayPeople, shrunk } from './pairs';
import { ago, bought, nobody, NOW, people, product, rule, skus } from './testing';

describe('best sellers', () => {
  const lines = [
    ...['a', 'b', 'c'].map((person) => bought(person, 'pot', 2)),
    bought('a', 'spade', 2, { quantity: 5, price: 1 }),
    bought('b', 'spade', 100, { quantity: 50 }),
    bought('c', 'bench', 3, { price: 200 }),
  ];
  const shop = shopOf(historyOf(people(lines)), [
    product('pot'),
    product('spade'),
    product('bench'),
  ]);
  const asked = (step: object) =>
    pick(rule({ kind: 'best_sellers', days: 30, ...step }), shop, nobody);

  test('are counted by units, by revenue, and by how many people bought', () => {
    expect(skus(asked({ by: 'units' }))).toEqual(['spade', 'pot', 'bench']);
    expect(skus(asked({ by: 'revenue' }))).toEqual(['bench', 'pot', 'spade']);
    expect(skus(asked({ by: 'buyers' }))).toEqual(['pot', 'spade', 'bench']);
    expect(asked({ by: 'units' }).picks[0]).toMatchObject({
      ...{ score: 5, figure: 'sold 5 times in 30 days', step: 0 },
    });
  });

  test('of long ago count as much less as the half-life says', () => {
    const old = [bought('a', 'pot', 20, { quantity: 3 }), bought('b', 'spade', 0, { quantity: 1 })];
    const two = shopOf(historyOf(people(old)), [product('pot'), product('spade')]);
    const step = { kind: 'best_sellers', days: 90, by: 'units' };
    expect(skus(pick(rule(step), two, nobody))).toEqual(['pot', 'spade']);
    // 3 · ½^(20 / 10) = 0.75 is less than 1.
    expect(skus(pick(rule({ ...step, half_life: 10 }), two, nobody))).toEqual(['spade', 'pot']);
  });
});

describe('bought together', () => {
  // Of ten people, four bought the pot and three of them feed; everybody bought string.
  const ten = Array.from({ length: 10 }, (_, i) => `p${i}`);
  const lines = [
    ...ten.map((person) => bought(person, 'string')),
    ...ten.slice(0, 4).map((person) => bought(person, 'pot')),
    ...ten.slice(0, 3).map((person) => bought(person, 'feed')),
    bought('p9', 'feed'),
    bought('p9', 'bench'),
    bought('p0', 'bench'),
  ];
  const catalog = ['string', 'pot', 'feed', 'bench'].map((sku) => product(sku));
  const shop = shopOf(historyOf(people(lines)), catalog);
  const together = rule({ kind: 'bought_together', seed: 'cart' });

  test('says how much more than by chance, and leaves out pairs of one person', () => {
    const { picks } = pick(together, shop, { ...nobody, cart: ['pot'] });
    // Lift of pot and feed: 3 · 10 / (4 · 4) = 1.875; of pot and string 4 · 10 / (4 · 10) = 1, which is chance.
    expect(picks.map(({ product: { sku }, figure }) => [sku, figure])).toEqual([
      ['feed', 'bought together with The pot by only 3 people, 1.9 × more than by chance'],
    ]);
    const [first] = picks;
    expect(first && pickRecord(first)).toMatchObject({
      sku: 'feed',
      reason: 'Goes with your The pot',
    });
  });

  test('with what is in no order, nothing goes; a seed that left the catalog still leads', () => {
    expect(skus(pick(together, shop, { ...nobody, cart: ['new'] }))).toEqual([]);
    const without = shopOf(historyOf(people(lines)), catalog.slice(2));
    expect(skus(pick(together, without, { ...nobody, cart: ['pot'] }))).toEqual(['feed']);
  });
});

test('the other steps: newest, same category, price lowered, by hand', () => {
  const catalog = [
    product('a', { added_at: '2026-01-01', category: 'Pots' }),
    product('b', { added_at: '2026-11-01', category: 'Pots', price: 8, was_price: 10 }),
    product('c', { added_at: '2030-01-01', price: 5, was_price: 10 }),
  ];
  const shop = shopOf(historyOf(people([bought('x', 'a')])), catalog);
  const of = (step: object, asked: Partial<Asked> = {}) =>
    pick(rule(step), shop, { ...nobody, ...asked });
  // What is not there yet is no news.
  expect(skus(of({ kind: 'newest' }))).toEqual(['b', 'a']);
  expect(skus(of({ kind: 'price_dropped' }))).toEqual(['c', 'b']);
  expect(skus(of({ kind: 'by_hand', skus: ['c', 'gone', 'a'] }))).toEqual(['c', 'a']);
  const same = of({ kind: 'same_category', seed: 'latest_order' }, { latest: ['b'] });
  expect(skus(same)).toEqual(['a', 'b']);
  expect(skus(of({ kind: 'same_category', seed: 'cart' }))).toEqual([]);
});

test('what is passed over is told with the reason', () => {
  const catalog = [
    product('bought'),
    product('cart'),
    product('gone', { in_stock: false }),
    product('first'),
    product('second'),
    product('pot', { category: 'Pots' }),
  ];
  const order = ['bought', 'cart', 'gone', 'first', 'second', 'pot'];
  const shop = shopOf(historyOf(people([bought('ann', 'bought', 10)])), catalog);
  const asked = { ...nobody, person: 'ann', cart: ['cart'] };
  const strict: Rule = {
    ...rule({ kind: 'by_hand', skus: order }),
    exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
    spread: { by: 'category', most: 1 },
  };
  const { picks, passed } = pick(strict, shop, asked);
  expect(picks.map((one) => one.product.sku)).toEqual(['first', 'pot']);
  expect(passed.map(({ product: { sku }, why }) => [sku, why])).toEqual([
    ['bought', 'bought on 14 November 2026'],
    ['cart', 'in the cart'],
    ['gone', 'out of stock'],
    ['second', '1 of Seeds is there already'],
  ]);
  const lately: Rule = { ...strict, exclude: { ...strict.exclude, bought_days: 5 } };
  expect(skus(pick(lately, shop, asked))).toEqual(['bought', 'pot']);
  // It was bought ten days ago, to the moment: within the last eleven, not within the last ten.
  const within = (bought_days: number) =>
    skus(pick({ ...strict, exclude: { ...strict.exclude, bought_days } }, shop, asked))[0];
  expect([within(10), within(11)]).toEqual(['bought', 'first']);
});

test('nothing of after a day is in the history of that day', () => {
  const lines = [bought('a', 'pot', 10), bought('a', 'spade', 1)];
  expect(historyOf(people(lines), ago(5)).products.all).toEqual(['pot']);
});

describe('for any shop, rule and person', () => {
  const sku = fc.constantFrom(...'abcdefgh');
  const someone = fc.constantFrom('p', 'q', 'r', 's');
  const line = fc
    .record({ person: someone, sku, days: fc.nat(400), quantity: fc.integer({ min: 1, max: 9 }) })
    .map(({ person, sku: of, days, quantity }) => bought(person, of, days, { quantity }));
  const record = fc
    .record({
      sku,
      category: fc.constantFrom('Seeds', 'Pots', ''),
      in_stock: fc.boolean(),
      price: fc.option(fc.integer({ min: 1, max: 50 }), { nil: undefined }),
      was_price: fc.option(fc.integer({ min: 1, max: 50 }), { nil: undefined }),
      added_at: fc.constantFrom('2026-01-01', '2026-11-01', 'never', undefined),
    })
    .map((one) => product(one.sku, one));
  const kinds = Object.keys(STEPS) as (keyof typeof STEPS)[];
  const step = fc.oneof(
    fc
      .constantFrom(...kinds.filter((kind) => kind !== 'by_hand'))
      .map((kind) => stepKind(kind).make()),
    fc.array(sku, { maxLength: 8 }).map((named) => ({ kind: 'by_hand', skus: named })),
  );
  const anyRule = fc.record({
    name: fc.constant('r'),
    label: fc.constant('R'),
    number: fc.integer({ min: 1, max: 6 }),
    steps: fc.array(fc.record({ take: fc.integer({ min: 1, max: 4 }), step }), {
      minLength: 1,
      maxLength: 4,
    }),
    exclude: fc.record(
      {
        out_of_stock: fc.boolean(),
        in_cart: fc.boolean(),
        bought_days: fc.constantFrom<'ever' | number>('ever', 30),
      },
      { requiredKeys: ['out_of_stock', 'in_cart'] },
    ),
    spread: fc.option(
      fc.record({ by: fc.constant('category' as const), most: fc.integer({ min: 1, max: 3 }) }),
      { nil: undefined },
    ),
  }) as unknown as fc.Arbitrary<Rule>;

  test('exclusions hold, the spread is kept, nothing comes twice, and the answer is the same again', () => {
    fc.assert(
      fc.property(
        fc.array(line, { maxLength: 60 }),
        fc.array(record, { maxLength: 12 }),
        anyRule,
        someone,
        fc.array(sku, { maxLength: 3 }),
        (lines, catalog, asked, person, cart) => {
          const shop = shopOf(historyOf(people(lines)), catalog);
          const who: Asked = { person, cart, latest: [], now: NOW };
          const { picks } = pick(asked, shop, who);
          const chosen = picks.map((one) => one.product.sku);
          expect(chosen.length).toBeLessThanOrEqual(asked.number);
          expect(new Set(chosen).size).toBe(chosen.length);
          const { out_of_stock: noGone, in_cart: noCart, bought_days: days } = asked.exclude;
          for (const { product: one } of picks) {
            const { in_stock: inStock } = one.record as { in_stock?: boolean };
            if (noGone) expect(inStock).toBe(true);
            if (noCart) expect(cart).not.toContain(one.sku);
            if (days === 'ever')
              expect(lines.some((l) => l.person === person && l.sku === one.sku)).toBe(false);
          }
          if (asked.spread) {
            const counts = new Map<string, number>();
            for (const { product: one } of picks) {
              const { category } = one.record as { category: string };
              counts.set(category, (counts.get(category) ?? 0) + 1);
            }
            counts.delete('');
            expect(Math.max(0, ...counts.values())).toBeLessThanOrEqual(asked.spread.most);
          }
          const again = shopOf(historyOf(people([...lines].reverse())), catalog);
          expect(skus(pick(asked, again, who))).toEqual(chosen);
          expect(skus(pick(asked, shop, who))).toEqual(chosen);
        },
      ),
      { numRuns: 300 },
    );
  });
});

test('chance is reckoned among those who ordered: whoever only looks changes no pair', () => {
  const orders = Array.from({ length: 12 }, (_, i) => [
    bought(`m${i}`, i % 3 === 0 ? 'a' : 'b', 9),
    bought(`m${i}`, i % 2 === 0 ? 'c' : 'd', 9),
  ]).flat();
  const lookers = Array.from({ length: 500 }, (_, i) => ({
    person: `l${i}`,
    bought: [],
    viewed: [{ sku: 'a', at: NOW }],
  }));
  const a = historyOf(people(orders));
  const b = historyOf([...people(orders), ...lookers]);
  const pairs = (history: typeof a) => pairsOf(history, history.products.find('a') ?? 0);
  expect(pairs(b)).toEqual(pairs(a));
  expect(orderedCount(b)).toBe(12);
});

test('a lift of few people counts less than a smaller one of many, and is said to rest on few', () => {
  expect(shrunk(8, 2)).toBeLessThan(shrunk(1.5, 40));
  expect(sayPeople(2)).toBe('only 2 people');
  expect(sayPeople(40)).toBe('40 people');
});
