import { readTag, writeTag } from '.';

test.each([
  ['person.first_name', { what: 'person.first_name', format: 'plain', fallback: null }],
  [
    'title(person.first_name) otherwise "there"',
    { what: 'person.first_name', format: 'title', fallback: 'there' },
  ],
  [
    'date(order.placed_at, "long")',
    { what: 'order.placed_at', format: 'date long', fallback: null },
  ],
  ['date(order.placed_at)', { what: 'order.placed_at', format: 'date medium', fallback: null }],
  [
    'money(cart.total, "GBP")',
    { what: 'money(cart.total, "GBP")', format: 'plain', fallback: null },
  ],
  [
    'plural(cart.count, "a", "b")',
    { what: 'plural(cart.count, "a", "b")', format: 'plain', fallback: null },
  ],
])('%s is taken apart and put together again', (source, parts) => {
  const read = readTag(source);
  expect(read).toEqual(parts);
  expect(read && writeTag(read)).toBe(source);
});

test('what a form cannot show is left as a formula', () => {
  expect(readTag('a otherwise b')).toBeNull();
  expect(readTag('a +')).toBeNull();
  expect(writeTag({ what: 'a +', format: 'plain', fallback: null })).toBeNull();
});
