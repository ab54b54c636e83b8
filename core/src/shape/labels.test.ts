import { fieldLabel, fieldPaths, inferShape, isMeant } from '.';

test.each([
  ['person.first_name', 'First name'],
  ['person', 'Person'],
  ['cart.total', 'Cart total'],
  ['line.product.was_price', 'Line product was price'],
  ['person["shoe size"]', 'Shoe size'],
])('%s is called %s', (path, label) => expect(fieldLabel(path)).toBe(label));

const shape = inferShape([
  {
    person: { first_name: 'Maud', last_name: 'Fenwick', locale: 'en-GB', consent: true },
    cart: { total: 3, recover_url: 'https://s.example/c', lines: [{ name: 'Pot' }] },
    coupon: { welcome: { code: 'HELLO' } },
  },
]);
const found = (query: string) =>
  fieldPaths(shape)
    .filter((path) => isMeant(path, query))
    .map(({ path }) => path);

test.each([
  ['language', ['person.locale']],
  ['surname', ['person.last_name']],
  ['voucher', ['coupon.welcome.code']],
  ['cart link', ['cart.recover_url']],
  ['basket total', ['cart.total']],
  ['first name', ['person.first_name']],
  ['first_name', ['person.first_name']],
  ['fenwick', ['person.last_name']],
  ['zebra', []],
])('“%s” finds %j', (query, paths) => expect(found(query)).toEqual(paths));

test('things in the basket are the lines of the cart', () => {
  expect(found('basket things')).toEqual(['cart.lines']);
});
