import { cartWithLine, cartWithQuantity, lineOfProduct, readPersonData } from '.';

const pot = { sku: 'P-1', name: 'Pot', price: 1.005, category: 'Pots', image: 4 };
const given = { currency: 'GBP', at: '2026-11-24T06:00:00.000Z' };

test('a line is so many of a product, at its price', () => {
  expect(lineOfProduct(pot, 3)).toEqual({
    ...{ sku: 'P-1', name: 'Pot', category: 'Pots', price: 1.005, quantity: 3, total: 3.02 },
    properties: [],
  });
  expect(lineOfProduct({})).toMatchObject({ sku: 'made', name: 'A product', price: 10 });
});

test('a cart is begun, grows, changes, and goes with its last line', () => {
  const one = cartWithLine(null, lineOfProduct(pot), given);
  expect(one).toMatchObject({ currency: 'GBP', started_at: given.at, updated_at: given.at });
  const later = '2026-11-24T08:00:00.000Z';
  const two = cartWithLine(one, lineOfProduct({ ...pot, sku: 'P-2' }), {
    currency: 'EUR',
    at: later,
  });
  expect(two).toMatchObject({ currency: 'GBP', started_at: given.at, updated_at: later });
  expect(
    cartWithQuantity(two, 1, 4)?.lines.map(({ quantity, total }) => [quantity, total]),
  ).toEqual([
    [1, 1.01],
    [4, 4.02],
  ]);
  const left = cartWithQuantity(two, 0, 0);
  expect(left?.lines.map(({ sku }) => sku)).toEqual(['P-2']);
  expect(left && cartWithQuantity(left, 0, 0)).toBeNull();
  expect(readPersonData({ person: {}, shopper: { cart: two } })).toMatchObject({ ok: true });
});

test('a line that is written by hand comes to the same sum', () => {
  const { total: _, ...line } = lineOfProduct(pot, 3);
  const cart = { ...cartWithLine(null, lineOfProduct(pot, 3), given), lines: [line] };
  const read = readPersonData({ person: {}, shopper: { cart } });
  expect(read.ok && read.data.shopper.cart?.lines[0]?.total).toBe(3.02);
});
