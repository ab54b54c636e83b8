import { withStandard } from '../record';
import {
  fieldLabel,
  fieldPaths,
  inferShape,
  isMeant,
  meantFields,
  singleValues,
  type FieldPath,
} from '.';

test.each([
  ['person.first_name', 'First name'],
  ['person', 'Person'],
  ['cart.total', 'Cart total'],
  ['line.product.was_price', 'Line product previous price'],
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

const everything = fieldPaths(withStandard({ kind: 'record', fields: {} }, 1));
const rule: FieldPath = {
  ...{ path: 'picks.goes_with', group: 'picks', label: 'Goes with what is left' },
  field: { shape: { kind: 'list', of: { kind: 'any' } }, filled: 1, of: 1, samples: [] },
};
test.each([
  ['cart url', 'cart.recover_url'],
  ['cart link', 'cart.recover_url'],
  ['address', 'shop.address'],
  ['delivery', 'order.ship_to.name'],
  ['street', 'order.ship_to.street'],
  ['recommend', 'picks.goes_with'],
  ['goes with', 'picks.goes_with'],
  ['last order', 'person.last_order_at'],
  ['order total', 'order.total'],
])('“%s” means %s first of all that there can be', (query, path) => {
  expect(meantFields([...everything, rule], query)[0]?.path).toBe(path);
});

test('things in the basket are the lines of the cart', () => {
  expect(found('basket things')).toEqual(['cart.lines']);
});

test('what is called just so comes first', () => {
  const carts = fieldPaths(inferShape([{ cart: { subtotal: 1, total: 2, count: 1 } }]));
  expect(meantFields(carts, 'cart total').map(({ path }) => path)).toEqual([
    ...['cart.total', 'cart.subtotal'],
  ]);
  expect(meantFields(carts, '')).toHaveLength(3);
});

describe('where a single value is wanted, a list offers', () => {
  const singles = fieldPaths(
    inferShape([{ person: { tags: ['new'] }, cart: { lines: [{ name: 'Pot', total: 3 }] } }]),
  ).flatMap(singleValues);
  const called = singles.map(({ path, label }) => [path, label]);
  test('how many there are, all of them joined, and the first', () => {
    expect(called).toEqual([
      ['join(person.tags)', 'Tags, joined with commas'],
      ['first(person.tags)', 'First of tags'],
      ['count(person.tags)', 'How many tags'],
      ['count(cart.lines)', 'How many cart lines'],
      ['join(cart.lines, name)', 'Cart lines, joined with commas'],
      ['first(cart.lines).name', 'First of cart lines: name'],
    ]);
  });
  test.each([
    ['first thing in the cart', ['first(cart.lines).name']],
    ['how many in the basket', ['count(cart.lines)']],
    ['in the', []],
  ])('“%s” finds %j', (query, paths) => {
    expect(singles.filter((one) => isMeant(one, query)).map(({ path }) => path)).toEqual(paths);
  });
});
