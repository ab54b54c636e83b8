import fc from 'fast-check';
import type { Fields } from '../formula';
import { isThere, productsThen, whatChanged, type ProductChange } from './productsThen';

const change = (sku: string, at: number, before: Fields, after: Fields): ProductChange => ({
  ...{ sku, at, before, after },
});
const POT = { sku: 'pot', name: 'The pot', price: 3, in_stock: true };

test('a product costs what it cost at an instant, and is there if it was', () => {
  const then = productsThen(new Map([['pot', POT]]), [
    change('pot', 200, { price: 4, in_stock: false }, { price: 3, in_stock: true }),
    change('pot', 100, { price: 5, was_price: 6 }, { price: 4 }),
  ]);
  expect(then(50).get('pot')).toEqual({ ...POT, price: 5, was_price: 6 });
  expect(then(100).get('pot')).toEqual({ ...POT, price: 4, in_stock: false });
  expect(then(199).get('pot')).toEqual({ ...POT, price: 4, in_stock: false });
  expect(then(200).get('pot')).toBe(POT);
  expect(then(50).get('spade')).toBeUndefined();
});

test('what a product had no value for then is missing then', () => {
  const then = productsThen(new Map([['pot', { ...POT, was_price: 5 }]]), [
    change('pot', 100, { price: 5, was_price: null }, { price: 3, was_price: 5 }),
  ]);
  expect(then(99).get('pot')).toEqual({ ...POT, price: 5 });
});

test('the products between two changes are the same, so that what is made of them can be kept', () => {
  const products = new Map([['pot', POT]]);
  const then = productsThen(products, [
    change('pot', 100, { price: 5 }, { price: 3 }),
    change('pot', 300, { price: 3 }, { price: 3 }),
  ]);
  expect(then(120)).toBe(then(280));
  expect(then(99)).not.toBe(then(100));
  expect(then(120).get('pot')).toBe(then(280).get('pot'));
  expect(productsThen(products, [])(7)).toBe(products);
});

test('going through all changes from the beginning gives what each of them tells', () => {
  const prices = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 12 });
  fc.assert(
    fc.property(prices, fc.infiniteStream(fc.integer({ min: 1, max: 50 })), (costs, gaps) => {
      let at = 0;
      const changes = costs.slice(1).map((price, i) => {
        at += gaps.next().value ?? 1;
        return change('pot', at, { price: costs[i] }, { price });
      });
      const now = { ...POT, price: costs.at(-1) };
      const then = productsThen(new Map([['pot', now]]), [...changes].reverse());
      for (const { at: time, before, after } of changes) {
        expect(then(time - 1).get('pot')).toMatchObject(before);
        expect(then(time).get('pot')).toMatchObject(after);
      }
    }),
  );
});

test.each<[string, Fields, Fields, string[]]>([
  ['a lower price', { price: 4 }, { price: 3 }, ['cheaper']],
  ['a higher price', { price: 3 }, { price: 4 }, []],
  ['a first price', { price: null }, { price: 4 }, []],
  ['stock again', { stock: 0, price: 3 }, { stock: 7, price: 3 }, ['back']],
  ['in stock again, and cheaper', { in_stock: false, price: 5 }, { price: 3 }, ['cheaper', 'back']],
  ['gone', { in_stock: true }, { in_stock: false }, []],
  ['said to be in stock while none is left', { in_stock: false }, { in_stock: true, stock: 0 }, []],
])('%s', (_, before, after, told) => {
  expect(whatChanged(change('pot', 1, before, after))).toEqual(told);
});

test('what says nothing of its stock is there', () => {
  expect(isThere({ sku: 'pot' })).toBe(true);
  expect(isThere({ stock: 0 })).toBe(false);
  expect(isThere({ stock: -2 })).toBe(false);
});
