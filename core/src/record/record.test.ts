import fc from 'fast-check';
import {
  assembleRecord,
  foldEvents,
  NEW_SHOPPER,
  productIndex,
  ranks,
  reviveRecord,
  ShopEvent,
  type World,
} from '.';

const head = (id: string, minute: number) => ({
  id,
  at: new Date(Date.UTC(2026, 10, 1, 9, minute)).toISOString(),
  shop: 's',
  email: 'a@b.example',
});
const add = (id: string, minute: number, sku: string, quantity: number, more: object = {}) =>
  ShopEvent.parse({
    ...head(id, minute),
    kind: 'cart_added',
    currency: 'GBP',
    sku,
    name: sku,
    price: 2.35,
    quantity,
    ...more,
  });

describe('folding events', () => {
  test('lines of one product, variant and properties become one; others stay apart', () => {
    const { cart } = foldEvents([
      add('1', 1, 'A', 1),
      add('2', 2, 'A', 2),
      add('3', 3, 'A', 1, { variant: 'Tall' }),
      add('4', 4, 'A', 1, { properties: [{ name: 'Label', value: 'x' }] }),
    ]);
    expect(cart?.lines.map((l) => [l.quantity, l.total])).toEqual([
      [3, 7.05],
      [1, 2.35],
      [1, 2.35],
    ]);
  });

  test('an order takes the cart with it; its status changes later', () => {
    const events = [
      add('1', 1, 'A', 2),
      ShopEvent.parse({
        ...head('2', 2),
        kind: 'order_placed',
        number: 'N1',
        shipping: 3,
        discount: 1,
      }),
      ShopEvent.parse({
        ...head('3', 3),
        kind: 'order_status_changed',
        number: 'N1',
        status: 'Sent',
      }),
      add('4', 4, 'B', 1),
    ];
    const { cart, orders } = foldEvents(events);
    expect(orders).toMatchObject([{ number: 'N1', status: 'Sent', subtotal: 4.7, total: 6.7 }]);
    expect(cart?.lines.map((l) => l.sku)).toEqual(['B']);
    expect(
      foldEvents([
        ...events,
        ShopEvent.parse({ ...head('5', 5), kind: 'order_cancelled', number: 'N1' }),
      ]).orders[0]?.status,
    ).toBe('Cancelled');
  });

  test('changing, removing and emptying', () => {
    const changed = foldEvents([
      add('1', 1, 'A', 2),
      ShopEvent.parse({ ...head('2', 2), kind: 'cart_changed', sku: 'A', quantity: 5 }),
    ]);
    expect(changed.cart?.lines[0]).toMatchObject({ quantity: 5, total: 11.75 });
    expect(
      foldEvents([ShopEvent.parse({ ...head('3', 3), kind: 'cart_removed', sku: 'A' })], changed)
        .cart,
    ).toBeNull();
  });

  test('in pieces gives the same as at once', () => {
    const event = fc
      .tuple(fc.nat(4), fc.constantFrom('A', 'B'), fc.integer({ min: 1, max: 9 }))
      .map(([kind, sku, n]) => ({ kind, sku, n }));
    fc.assert(
      fc.property(fc.array(event, { maxLength: 30 }), fc.nat(30), (made, cut) => {
        const events = made.map(({ kind, sku, n }, i) => {
          const at = head(String(i), i);
          if (kind <= 1) return add(String(i), i, sku, n);
          if (kind === 2) return ShopEvent.parse({ ...at, kind: 'cart_changed', sku, quantity: n });
          if (kind === 3) return ShopEvent.parse({ ...at, kind: 'cart_removed', sku });
          return ShopEvent.parse({ ...at, kind: 'order_placed', number: `N${i}` });
        });
        const pieces = foldEvents(events.slice(cut), foldEvents(events.slice(0, cut)));
        expect(pieces).toEqual(foldEvents(events));
      }),
    );
  });
});

describe('the record', () => {
  const world: World = {
    shop: { url: 'https://s.example' },
    catalog: {
      garden: [{ sku: 'A', name: 'Aster', image: 'https://p.example/a.png', in_stock: true }],
    },
    feeds: {},
    coupon: {},
  };
  const data = {
    person: { email: 'a@b.example', joined: '2026-01-02' },
    shopper: foldEvents([add('1', 1, 'A', 2), add('2', 2, 'GONE', 1)]),
    rank: 4,
  };

  test('joins the catalog to lines, reckons totals and reads dates', () => {
    const record = assembleRecord(data, world, productIndex(world));
    expect(record).toMatchObject({
      person: { joined: new Date('2026-01-02'), rank: 4, orders_count: 0 },
      cart: {
        count: 2,
        quantity: 3,
        total: 7.05,
        lines: [
          { product: { name: 'Aster' }, in_stock: true, image: 'https://p.example/a.png' },
          { sku: 'GONE' },
        ],
      },
      links: { unsubscribe: 'https://s.example/mail/unsubscribe?for=a%40b.example' },
    });
    expect(record['order']).toBeUndefined();
    expect((record['cart'] as { lines: object[] }).lines[1]).not.toHaveProperty('product');
  });

  test('without a cart there is none', () => {
    expect(
      assembleRecord({ ...data, shopper: NEW_SHOPPER }, world, productIndex(world)),
    ).not.toHaveProperty('cart');
  });

  test('from JSON, dates are read where they are named and nothing reaches a prototype', () => {
    const record = reviveRecord(
      JSON.parse(
        '{"order":{"placed_at":"2026-03-01","note":"2026-03-01","x":{"date":"2026-03-02"}},"__proto__":{"a":1}}',
      ),
    ) as Record<string, Record<string, unknown>>;
    expect(record['order']).toMatchObject({
      placed_at: new Date('2026-03-01'),
      note: '2026-03-01',
      x: new Date('2026-03-02'),
    });
    expect(Object.hasOwn(record, '__proto__')).toBe(true);
    expect(({} as Record<string, unknown>)['a']).toBeUndefined();
  });
});

test('ranks put recent, frequent and large buyers first; who never bought has none', () => {
  const buyer = (orders: number) =>
    foldEvents(
      Array.from({ length: orders }, (_, i) => [
        add(`a${i}`, orders * 2, 'A', orders),
        ShopEvent.parse({
          ...head(`o${i}`, orders * 2 + 1),
          kind: 'order_placed',
          number: `N${i}`,
        }),
      ]).flat(),
    );
  const all = ranks([NEW_SHOPPER, ...[1, 2, 3, 4, 5].map(buyer)]);
  expect(all).toEqual([undefined, 1, 2, 3, 4, 5]);
});
