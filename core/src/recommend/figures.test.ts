import fc from 'fast-check';
import {
  addPicks,
  byCategory,
  evenness,
  historyOf,
  noFigures,
  pick,
  shopOf,
  roomOf,
  sieveOf,
  textOf,
  together,
} from '.';
import { bootstrap } from './bootstrap';
import { nobody, product, rule } from './testing';

const catalog = ['a', 'b', 'c'].map((sku) => product(sku, sku === 'c' ? { category: 'Pots' } : {}));
const shop = shopOf(historyOf([]), catalog);
const two = {
  ...rule({ kind: 'by_hand', skus: ['a'] }, { kind: 'by_hand', skus: ['b', 'c'] }),
  number: 2,
};

test('figures count steps, people with fewer, with none, and with the last step only', () => {
  const figures = noFigures(two);
  for (const cart of [[], ['a'], ['a', 'b'], ['a', 'b', 'c']])
    addPicks(figures, two, pick(two, shop, { ...nobody, cart }).picks, cart.join('') || 'none');
  expect(figures).toEqual({
    ...{ people: 4, picks: 5, steps: [1, 4], fewer: 2, none: 1, last_only: 2 },
    who: {
      ...{ fewer: ['ab', 'abc'], none: ['abc'], last_only: ['a', 'ab'] },
      steps: [['none'], ['none', 'a', 'ab']],
    },
    shown: { a: 1, b: 2, c: 2 },
  });
  expect(
    byCategory(shop.products, ({ record }) => textOf(record, 'category'), figures.shown),
  ).toEqual([
    { category: 'Seeds', products: 2, ever: 2, picks: 3 },
    { category: 'Pots', products: 1, ever: 1, picks: 2 },
  ]);
});

test('figures of some and of others are those of all', () => {
  const carts = [[], ['a'], ['a', 'b']];
  const [all, one, other] = [noFigures(two), noFigures(two), noFigures(two)];
  carts.forEach((cart, i) => {
    const { picks } = pick(two, shop, { ...nobody, cart });
    addPicks(all, two, picks, `${i}`);
    addPicks(i === 0 ? one : other, two, picks, `${i}`);
  });
  expect(together(one, other)).toEqual(all);
});

describe('evenness', () => {
  test('of worked examples', () => {
    expect(evenness([3, 3, 3]).gini).toBeCloseTo(0);
    // One of four has all: (n − 1) / n.
    expect(evenness([0, 0, 0, 8])).toMatchObject({ ever: 1, gini: 0.75 });
    expect(evenness([1, 3]).curve).toEqual([
      [0, 0],
      [0.5, 0.25],
      [1, 1],
    ]);
    expect(evenness([]).gini).toBe(0);
    expect(evenness([0, 0]).gini).toBe(0);
  });
  test('lies between 0 and 1, and its curve below the line of equal parts', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(50), { minLength: 1, maxLength: 40 }), (counts) => {
        const { gini, curve } = evenness(counts);
        expect(gini).toBeGreaterThanOrEqual(0);
        expect(gini).toBeLessThan(1);
        for (const [x, y] of curve) expect(y).toBeLessThanOrEqual(x + 1e-9);
      }),
    );
  });
});

test('the bootstrap interval holds the mean, narrows with more values, and is the same again', () => {
  const values = (n: number) => Array.from({ length: n }, (_, i) => i % 2);
  const [some, many] = [bootstrap(values(20)), bootstrap(values(2000))];
  for (const { low, mean, high } of [some, many]) {
    expect(mean).toBe(0.5);
    expect(low).toBeLessThanOrEqual(mean);
    expect(high).toBeGreaterThanOrEqual(mean);
  }
  expect(many.high - many.low).toBeLessThan((some.high - some.low) / 5);
  expect(bootstrap(values(20))).toEqual(some);
  expect(bootstrap([])).toEqual({ mean: 0, low: 0, high: 0 });
  expect(bootstrap([1, 1, 1])).toEqual({ mean: 1, low: 1, high: 1 });
});

test('a sieve counts what each step offers of the pool, and what falls through', () => {
  const own = { ...two, pool: 'product.sku != "c"' };
  expect(sieveOf(own, shop, { ...nobody, cart: ['b'] }, [{ step: 0 }])).toEqual({
    ...{ products: 3, pool: 2 },
    steps: [
      { offered: 1, through: 0, room: 2 },
      { offered: 1, through: 1, room: 1 },
    ],
  });
});

test('a step has room for what those before it leave', () => {
  const hand = (take: number, place?: number) => ({
    take,
    step: { kind: 'by_hand' as const, skus: [], ...(place && { place }) },
  });
  const of = (more: object, ...given: number[]) =>
    roomOf(
      { steps: [hand(2), hand(2), hand(4)], number: 4, ...more },
      given.map((step) => ({ step })),
    );
  expect(of({})).toEqual([2, 2, 4]);
  expect(of({}, 0, 0, 1, 1)).toEqual([2, 2, 0]);
  expect(of({}, 0, 2)).toEqual([2, 2, 3]);
  // Of a mix all but the last are asked together.
  expect(of({ mixed: true }, 0, 1, 1, 1)).toEqual([4, 4, 0]);
  // What is pinned goes first, wherever its step stands.
  expect(of({ steps: [hand(4), hand(3, 1), hand(4)] }, 1, 1, 1, 0)).toEqual([1, 3, 0]);
});
