import fc from 'fast-check';
import type { Fields } from '../formula';
import { momentsFor, added, at, ordered, person } from './testing';

const EVENTS = [
  added(at('01T10:00'), 'A'),
  added(at('01T10:05'), 'B'),
  ordered(at('01T11:00'), 'O1'),
  added(at('02T09:00'), 'C'),
];

const ASKED = [
  'cart.count >= 2',
  'cart is filled',
  'order.number = "O1"',
  'count(order.lines) = 2 and cart.count = 1',
  'person.orders_count = 1',
  'person.orders_total >= 20 and person.last_order_at is filled',
  'person.birthday < today',
  'person.locale = "ja-JP"',
  'number(1234.5) = "1,234.5"',
  'links.unsubscribe is filled',
  'shop.name = "S" and occasion.mails = 0',
  'not occasion.ordered_since',
  'event.order = "O1"',
  'segment:Has a cart',
  'count(person) > 3',
];
const beside = { occasion: { mails: 0, ordered_since: false }, event: { order: 'O1' } };
const segments = [{ name: 'Has a cart', formula: 'cart is filled' }];

test('what is asked in turn is what it is when it is asked alone, whatever was asked before', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          formula: fc.constantFrom(...ASKED),
          known: fc.integer({ min: 0, max: EVENTS.length }),
          locale: fc.constantFrom('ja-JP', 'en-GB'),
        }),
        { minLength: 1, maxLength: 12 },
      ),
      (asked) => {
        const together = momentsFor({}, segments);
        const people = new Map<string, ReturnType<typeof person>>();
        for (const { formula, known, locale } of asked) {
          const fields = { locale, birthday: '1960-02-29' };
          // The same person is the same object as long as nothing happens to them.
          const key = `${known} ${locale}`;
          const data = people.get(key) ?? person(EVENTS.slice(0, known), fields);
          people.set(key, data);
          const fresh = person(EVENTS.slice(0, known), fields);
          const alone = momentsFor({}, segments);
          const time = at('03T12:00');
          const whole = alone.explain({ data: fresh, at: time }, formula, beside).holds;
          expect(together.moment({ data, at: time }).holds(formula, beside)).toBe(whole);
        }
      },
    ),
    { numRuns: 200 },
  );
});

test.each([
  ['cart.count >= 2', 2, true],
  ['cart.count >= 2', 4, false],
  ['person.orders_count = 1', 3, true],
  ['person.orders_count = 1', 2, false],
  ['person.birthday < today', 0, true],
  ['order.number = "O1"', 4, true],
  ['segment:Has a cart', 3, false],
  ['cart.count >=', 2, false],
  ['', 0, true],
])('%s, after %i events: %s', (formula, known, holds) => {
  const data = person(EVENTS.slice(0, known), { birthday: '1960-02-29' });
  const moment = momentsFor({}, segments).moment({ data, at: at('03T12:00') });
  expect(moment.holds(formula, {})).toBe(holds);
});

test('a condition that cannot be read holds for nobody when it is explained, and tells no values', () => {
  const told = momentsFor().explain({ data: person(EVENTS), at: at('03T12:00') }, 'cart.', {});
  expect(told).toEqual({ formula: 'cart.', holds: false, parts: [] });
});

test('of a condition about a list it is told for how many of it that holds, on which day', () => {
  const moments = momentsFor();
  const posts = ['2026-10-20', '2026-11-02'].map((day) => ({ published_at: new Date(day) }));
  const said = (formula: string, occasion: Fields) =>
    moments
      .explain({ data: person(EVENTS), at: at('03T12:00') }, formula, { posts, occasion })
      .parts.flatMap(({ source, value }) => (source === '' ? [value] : []));
  const since =
    'cart.count > 0 and any(posts, published_at > (occasion.last_mail_at otherwise add_days(now, -2)))';
  expect(said(since, {})).toEqual(['published is after 1 Nov 2026 for 1 of 2 posts']);
  expect(said(since, { last_mail_at: new Date('2026-10-10T08:00:00Z') })).toEqual([
    'published is after 10 Oct 2026 for all 2 posts',
  ]);
  expect(said('not every(cart.lines, price > 3)', {})).toEqual([
    'price is over £3.00 for the only one of cart lines',
  ]);
});
