import { inferShape } from '../shape';
import { continued, parsedFormula, type Use } from '.';

const shape = inferShape([
  { person: { first: 'Maud', last: 'Fenwick', consent: true }, cart: { total: 3, discount: 1 } },
]);
const more = (source: string, path: string, use: Use = 'value') =>
  continued(source, path, { shape, use });

test.each([
  ['', 'person.first', 'value', 'person.first'],
  ['cart.total - ', 'cart.discount', 'value', 'cart.total - cart.discount'],
  ['if(', 'person.consent', 'value', 'if( person.consent'],
  ['cart.total > 3 and', 'person.consent', 'condition', 'cart.total > 3 and person.consent'],
  ['cart.total', 'cart.discount', 'value', 'cart.discount'],
  ['cart.total + cart.discount', 'cart.total', 'value', 'cart.total'],
  ['cart.total', 'cart.discount', 'tag', 'cart.total + cart.discount'],
  ['person.first', 'person.last', 'tag', 'person.first & " " & person.last'],
  ['person.first', 'cart.total', 'tag', 'person.first & " " & cart.total'],
  ['cart.total > 3', 'person.consent', 'condition', 'cart.total > 3 and person.consent'],
  ['cart.total > 3', 'person.first', 'condition', 'cart.total > 3 and person.first is filled'],
  ['cart.total >> 3', 'person.first', 'condition', 'cart.total >> 3 person.first'],
] as const)('%j with %s as %s is %j', (source, path, use, whole) => {
  expect(more(source, path, use)).toBe(whole);
});

test('what could be read before can be read after', () => {
  for (const use of ['value', 'tag', 'condition'] as const)
    for (const source of ['cart.total', 'person.first', 'person.consent', '1 + 2', '"a"'])
      for (const path of ['person.last', 'cart.discount', 'person.consent'])
        expect(parsedFormula(more(source, path, use)).ok).toBe(true);
});
