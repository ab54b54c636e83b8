import fc from 'fast-check';
import { foldEvents, mergeShopper, NEW_SHOPPER, ranks, readEvent, standing } from '.';
import { ownRecord, type Order, type ShopEvent, type SharedData } from '.';

let count = 0;
/** An event of one shopper, a minute after the one made before. */
function event(kind: ShopEvent['kind'], more: object = {}): ShopEvent {
  count++;
  const at = new Date(Date.UTC(2026, 10, 1, 9, count)).toISOString();
  const read = readEvent({ id: `e${count}`, at, shop: 's', email: 'a@b.example', kind, ...more });
  if (!read.ok) throw new Error(read.message);
  return read.event;
}
const add = (sku: string, price: number, more: object = {}) =>
  event('cart_added', { sku, name: sku, price, quantity: 1, currency: 'GBP', ...more });
const order = (number: string, more: object = {}) => event('order_placed', { number, ...more });
const LINES = { currency: 'GBP', lines: [{ sku: 'A', name: 'A', price: 10, quantity: 2 }] };
const status = (number: string, to: string) =>
  event('order_status_changed', { number, status: to });

describe('a line that is added again', () => {
  test('takes the newest price, name and picture, for all of it', () => {
    const { cart } = foldEvents([
      add('A', 5, { image: 'https://x.example/1.png' }),
      add('A', 4.5, { name: 'Aster', quantity: 2 }),
    ]);
    expect(cart?.lines).toMatchObject([
      { name: 'Aster', price: 4.5, quantity: 3, total: 13.5, image: 'https://x.example/1.png' },
    ]);
  });
});

describe('carts of two currencies', () => {
  const two = [add('A', 5), add('B', 7, { currency: 'eur' })];
  test('stay apart; the one that was added to last is shown', () => {
    const shopper = foldEvents(two);
    expect(shopper.cart).toMatchObject({ currency: 'EUR', lines: [{ sku: 'B' }] });
    expect(shopper.other_carts).toMatchObject([{ currency: 'GBP', lines: [{ sku: 'A' }] }]);
    const back = foldEvents([add('C', 1)], shopper);
    expect(back.cart).toMatchObject({ currency: 'GBP', lines: [{ sku: 'A' }, { sku: 'C' }] });
    expect(back.other_carts).toMatchObject([{ currency: 'EUR' }]);
  });
  test('an order takes the one of its currency; lines are taken out wherever they lie', () => {
    const ordered = foldEvents([...two, order('N', { currency: 'GBP' })]);
    expect(ordered.orders).toMatchObject([{ currency: 'GBP', lines: [{ sku: 'A' }], total: 5 }]);
    expect(ordered.cart?.currency).toBe('EUR');
    expect(ordered).not.toHaveProperty('other_carts');
    const removed = foldEvents([...two, event('cart_removed', { sku: 'B' })]);
    expect(removed.cart?.currency).toBe('GBP');
  });
});

describe('what an order comes to', () => {
  test.each([
    [{}, 20],
    [{ shipping: 3, discount: 5 }, 18],
    [{ tax: 4 }, 20],
    [{ tax: 4, tax_included: true }, 20],
    [{ tax: 4, tax_included: false }, 24],
    // A shop that says so is told so, and not corrected.
    [{ discount: 25 }, -5],
    // Each amount to the cent by itself: 20.00 − 1.01 + 2.01.
    [{ discount: 1.005, shipping: 2.005 }, 21],
  ])('with %j is %d', (more, total) => {
    expect(foldEvents([order('N', { ...LINES, ...more })]).orders[0]?.total).toBe(total);
  });
});

describe('the status of an order', () => {
  test('that comes before its order waits for it', () => {
    const early = foldEvents([status('N', 'Packed'), status('M', 'Sent'), order('N', LINES)]);
    expect(early.orders).toMatchObject([{ number: 'N', status: 'Packed' }]);
    expect(early.loose_statuses).toEqual([
      { number: 'M', status: 'Sent', at: expect.any(String) as string },
    ]);
    expect(foldEvents([status('N', 'Sent')], early).orders[0]?.status).toBe('Sent');
  });
  test('reaches an order that was imported whole', () => {
    const shopper = foldEvents([status('I', 'Packed'), status('I', 'Sent')]);
    const imported = { number: 'I', placed_at: '2026-01-01', status: 'Received' } as Order;
    const merged = mergeShopper(shopper, { cart: null, orders: [imported] });
    expect(merged.orders[0]?.status).toBe('Sent');
  });
});

describe('what counts', () => {
  const shared = { shop: { url: 'https://s.example' }, catalog: {}, feeds: {}, coupon: {} };
  const personOf = (events: ShopEvent[]) => {
    const data = { person: { email: 'a@b.example' }, shopper: foldEvents(events) };
    return ownRecord(data, shared as unknown as SharedData, new Map());
  };
  test('cancelled orders are not bought; the latest is still the order that mails show', () => {
    const first = order('N1', LINES);
    const { person, order: latest } = personOf([
      first,
      order('N2', LINES),
      event('order_cancelled', { number: 'N2' }),
    ]) as { person: Record<string, unknown>; order: Record<string, unknown> };
    expect(person).toMatchObject({ orders_count: 1, orders_total: 20 });
    expect((person['last_order_at'] as Date).toISOString()).toBe(first.at);
    expect(latest).toMatchObject({ number: 'N2', status: 'Cancelled' });
    expect(standing([])).toEqual([]);
  });
  test('what was bought in another currency than the last time is not added up', () => {
    const euros = { ...LINES, currency: 'EUR' };
    const both = [order('N1', LINES), order('N2', euros), order('N3', euros)];
    expect(personOf(both)['person']).toMatchObject({ orders_count: 3, orders_total: 40 });
    const cancelled = [...both, status('N2', 'Cancelled'), status('N3', 'Cancelled')];
    expect(personOf(cancelled)['person']).toMatchObject({ orders_count: 1, orders_total: 20 });
  });
  test('consent and what the shop does say nothing of when somebody was there', () => {
    const viewed = event('viewed', { sku: 'A' });
    const { last_seen_at, told } = foldEvents([
      viewed,
      event('consent_changed', { consent: true, person: { first_name: 'Ada' } }),
      status('N', 'Sent'),
    ]);
    expect(last_seen_at).toBe(viewed.at);
    expect(told).toEqual({ first_name: 'Ada' });
  });
});

describe('events that are refused', () => {
  const base = { id: 'x', at: '2026-11-01T09:00:00Z', shop: 's', email: 'a@b.example' };
  test.each([
    [{ ...base, at: '9999-12-31T23:30:00-05:00', kind: 'checkout_started' }, /years 0 to 9999/],
    [{ ...base, at: '0000-01-01T00:00:00+05:00', kind: 'checkout_started' }, /years 0 to 9999/],
    [
      { ...base, kind: 'order_placed', number: 'N', currency: '€' },
      /not a three-letter currency code/,
    ],
  ])('%j', (given, message) => {
    const read = readEvent(given);
    expect(read.ok ? '' : read.message).toMatch(message);
  });
});

describe('ranks', () => {
  const buyer = fc.record({
    last_order_at: fc
      .integer({ min: 1, max: 20 })
      .map((d) => `2026-01-${String(d).padStart(2, '0')}`),
    orders: fc.integer({ min: 0, max: 6 }),
    spent: fc.integer({ min: 0, max: 40 }),
  });
  test('equals share one; who is at least as good in all three never ranks lower', () => {
    fc.assert(
      fc.property(fc.array(buyer, { maxLength: 40 }), (people) => {
        const given = ranks(people);
        people.forEach((a, i) =>
          people.forEach((b, j) => {
            if (a.orders === 0 || b.orders === 0) return;
            const isAsGood =
              a.last_order_at >= b.last_order_at && a.orders >= b.orders && a.spent >= b.spent;
            if (isAsGood) expect(given[i]).toBeGreaterThanOrEqual(given[j] ?? 0);
          }),
        );
        expect(given.every((rank, i) => (rank === undefined) === (people[i]?.orders === 0))).toBe(
          true,
        );
      }),
    );
  });
  test('somebody new has none', () => {
    expect(NEW_SHOPPER.orders).toEqual([]);
    expect(ranks([{ last_order_at: null, orders: 0, spent: 0 }])).toEqual([undefined]);
  });
});

test('halves of a cent are those of what was said, not of how a computer keeps a product', () => {
  const totals = (
    [
      [1.005, 3],
      [0.335, 3],
      [1.005, 1],
      [2.675, 1],
      [10.075, 10_000],
    ] as const
  ).map(([price, quantity], i) => {
    const thing = { sku: 'S', name: 'S', price, quantity };
    const at = '2026-11-01T09:00:00.000Z';
    const head = { id: `${i}`, at, shop: 's', email: 'a@b.example' };
    const { orders } = foldEvents([
      { ...head, kind: 'order_placed', number: 'N', currency: 'GBP', lines: [thing] },
    ]);
    return orders[0]?.lines[0]?.total;
  });
  expect(totals).toEqual([3.02, 1.01, 1.01, 2.68, 100_750]);
});
