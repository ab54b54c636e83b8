import { localeOf, newContext, parse, sayCondition, wordsOf } from '.';

const record = {
  cart: { total: 3.4, currency: 'GBP', lines: [{ name: 'Pot', price: 2 }], count: 1 },
  order: {
    lines: [
      { sku: 'A', price: 2 },
      { sku: 'B', price: 9, gift: true },
      { sku: 'C', price: 7, gift: false },
    ],
  },
  bare: { lines: [] },
  person: {
    ...{ first_name: '', country: 'FR', consent: false, tags: ['vip'] },
    last_order_at: new Date('2026-03-03T10:00:00Z'),
  },
};
function said(formula: string, held: boolean) {
  const parsed = parse(formula);
  if (!parsed.ok) throw new Error(parsed.error.message);
  return sayCondition(parsed.value, held, newContext(record, localeOf(['en-GB'], ['UTC'])));
}

test.each([
  ['cart.total >= 50', false, 'cart total £3.40 is under £50.00'],
  ['cart.total < 50', true, 'cart total £3.40 is under £50.00'],
  ['50 <= cart.total', false, '£50.00 is over cart total £3.40'],
  ['cart.count = 1', true, 'cart count 1 is 1'],
  ['person.country is "GB"', false, 'country “FR” is not “GB”'],
  ['person.country in ["GB", "IE"]', false, 'country “FR” is not one of GB, IE'],
  ['person.tags contains "vip"', true, 'tags vip has “vip”'],
  ['person.first_name is filled', false, 'first name is blank'],
  ['not (person.first_name is filled)', true, 'first name is blank'],
  ['person.consent', false, 'consent: no'],
  ['person.nothing', false, 'nothing is missing'],
  ['person.last_order_at > "2026-06-01"', false, 'last order 3 Mar 2026 is not after 1 Jun 2026'],
  ['count(cart.lines) > 1', false, 'count of cart lines 1 is not over 1'],
  ['(cart.total otherwise 0) > 50', false, 'cart total £3.40 is not over £50.00'],
  // Of several parts, those that made it so.
  [
    'cart.total >= 50 and person.consent',
    false,
    'cart total £3.40 is under £50.00 and consent: no',
  ],
  ['cart.count = 1 and cart.total >= 50', false, 'cart total £3.40 is under £50.00'],
  ['cart.count = 1 or person.consent', true, 'cart count 1 is 1'],
  ['any(cart.lines, price > 5)', false, 'price is over £5.00 not for the only one of cart lines'],
  [
    'any(cart.lines, price < 5 and name is filled)',
    true,
    'price is under £5.00 and name is filled for the only one of cart lines',
  ],
  [
    'every(order.lines, not (price < 5 or gift))',
    false,
    'price is not under £5.00 and not gift for 1 of 3 order lines',
  ],
  [
    'any(order.lines, (price > 8 or price < 3) and gift)',
    true,
    '(price is over £8.00 or price is under £3.00) and gift for 1 of 3 order lines',
  ],
  ['any(order.lines, sku in ["A"])', true, 'sku is one of A for 1 of 3 order lines'],
  ['every(order.lines, price > 1)', true, 'price is over £1.00 for all 3 order lines'],
  ['any(order.lines, price > 90)', false, 'price is over £90.00 for none of 3 order lines'],
  ['any(bare.lines, price > 5)', false, 'bare lines: none'],
  ['any(order.lines where (gift), gift)', true, 'any(order.lines where (gift), gift) is true'],
  ['any(nothing.lines, price > 5)', false, 'any(nothing.lines, price > 5) is not true'],
])('%s is told as %s', (formula, held, words) => {
  expect(said(formula, held).replace(/\u00a0/g, ' ')).toBe(words);
});

test('fields in words', () => {
  const words = (path: string) => {
    const parsed = parse(path);
    return parsed.ok ? wordsOf(parsed.value) : undefined;
  };
  expect(['person.first_name', 'cart.recover_url', 'a + 1'].map(words)).toEqual([
    'first name',
    'cart link',
    null,
  ]);
});
