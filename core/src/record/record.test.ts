import fc from 'fast-check';
import {
  assembleRecord,
  EVENT_KIND_NAMES,
  eventJsonSchema,
  foldEvents,
  foldHeap,
  mergePerson,
  mergeShopper,
  NEW_SHOPPER,
  ownerOf,
  productIndex,
  ranks,
  readEvent,
  reviveRecord,
  ShopEvent,
  type SharedData,
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
        // In whatever order they come, and each of them twice.
        const turned = [...events.slice(cut), ...events.slice(0, cut)].reverse();
        expect(foldHeap([...turned, ...events])).toEqual(foldHeap(events));
      }),
    );
  });

  test('an order can bring its own lines, and one number is one order', () => {
    const placed = ShopEvent.parse({
      ...head('1', 1),
      kind: 'order_placed',
      number: 'N1',
      currency: 'EUR',
      lines: [{ sku: 'A', name: 'Aster', price: 2, quantity: 3 }],
    });
    const again = { ...placed, id: '2', at: head('2', 2).at };
    expect(foldEvents([placed, again]).orders).toMatchObject([{ number: 'N1', total: 6 }]);
  });

  test('properties: lists become one text, blanks stay blank, and they tell lines apart', () => {
    const label = [
      { name: 'Engraved label', value: ['Row 3', '', 'East'] },
      { name: 'Gift note', value: null },
    ];
    const { cart } = foldEvents([
      add('1', 1, 'A', 1, { properties: label }),
      add('2', 2, 'A', 1),
      ShopEvent.parse({ ...head('3', 3), kind: 'cart_removed', sku: 'A', properties: [] }),
    ]);
    expect(cart?.lines.map((l) => l.properties)).toEqual([
      [
        { name: 'Engraved label', value: 'Row 3, East' },
        { name: 'Gift note', value: '' },
      ],
    ]);
  });
});

describe('events as they come', () => {
  test('are read into UTC and lower case', () => {
    const read = readEvent({
      ...head('1', 1),
      at: '2026-11-01T10:00:00+02:00',
      email: 'Ada@B.example',
      kind: 'checkout_started',
    });
    expect(read).toMatchObject({
      ok: true,
      event: { at: '2026-11-01T08:00:00.000Z', email: 'ada@b.example' },
    });
  });
  test.each([
    [{ ...head('1', 1), kind: 'danced' }, /not one of the kinds viewed, /],
    [{ ...head('1', 1), email: undefined, kind: 'viewed', sku: 'A' }, /neither “email” nor/],
    [{ ...head('1', 1), at: 'yesterday', kind: 'viewed', sku: 'A' }, /“at”/],
    [{ ...head('1', 1), kind: 'cart_changed', sku: 'A', quantity: -1 }, /“quantity”/],
    ['x', /./],
  ])('are refused with the place: %j', (given, message) => {
    const read = readEvent(given);
    expect(read.ok ? '' : read.message).toMatch(message);
  });
  test('have a JSON Schema each', () => {
    for (const kind of EVENT_KIND_NAMES)
      expect(eventJsonSchema(kind)).toMatchObject({ title: kind, type: 'object' });
    expect(JSON.stringify(eventJsonSchema('cart_added'))).toContain('"properties"');
  });
});

describe('who a visitor is', () => {
  const known = (email: string, at: string) => ({ visitor: 'v', email, at });
  test('is told by the next address, else by the last', () => {
    const all = [known('a@x.example', '2026-01-02'), known('b@x.example', '2026-01-04')];
    expect(
      ['2026-01-01', '2026-01-02', '2026-01-03', '2026-01-05'].map((at) => ownerOf(at, all)),
    ).toEqual(['a@x.example', 'a@x.example', 'b@x.example', 'b@x.example']);
    expect(ownerOf('2026-01-01', [])).toBeUndefined();
  });
});

describe('a person put together', () => {
  const shopper = foldEvents([
    ShopEvent.parse({
      ...head('1', 1),
      kind: 'consent_changed',
      consent: false,
      how: 'unsubscribe link',
      person: { first_name: 'Ada', city: 'Frome' },
    }),
  ]);
  test('without a row is a guest, with what events told', () => {
    expect(mergePerson({ email: 'a@b.example', rows: [], shopper })).toEqual({
      email: 'a@b.example',
      first_name: 'Ada',
      city: 'Frome',
      guest: true,
      joined: head('1', 1).at,
      consent: false,
      consent_at: head('1', 1).at,
      consent_how: 'unsubscribe link',
    });
  });
  test('takes later rows over earlier ones, and the latest word on consent', () => {
    const rows = [
      { first_name: 'Adeline', consent: true, consent_at: '2026-10-01' },
      { first_name: '', tags: ['x'] },
    ];
    const merged = mergePerson({ email: 'a@b.example', rows, shopper });
    expect(merged).toMatchObject({ first_name: 'Adeline', tags: ['x'], consent: false });
    const later = mergePerson({
      email: 'a@b.example',
      rows: [{ consent: true, consent_at: '2026-12-01', consent_how: 'at the till' }],
      shopper,
    });
    expect(later).toMatchObject({ consent: true, consent_how: 'at the till' });
  });
  test('imported carts and orders stand beside events; what was ordered is no cart', () => {
    const cart = {
      id: 'c',
      started_at: '2026-11-02',
      updated_at: '2026-11-02',
      currency: 'GBP',
      lines: [],
    };
    const order = {
      number: 'N9',
      placed_at: '2026-11-03',
      status: 'Sent',
      currency: 'GBP',
      lines: [],
      subtotal: 1,
      total: 1,
    };
    expect(mergeShopper(NEW_SHOPPER, { cart, orders: [] }).cart).toEqual(cart);
    // Files keep the offsets that they were written with: the second was placed before the first.
    const placed = ['2026-11-01T09:00:00Z', '2026-11-01T10:30:00+02:00'];
    const two = placed.map((placed_at, i) => ({ ...order, number: `N${i}`, placed_at }));
    expect(
      mergeShopper(NEW_SHOPPER, { cart, orders: two }).orders.map(({ number }) => number),
    ).toEqual(['N1', 'N0']);
    // What has no offset is UTC, wherever Carafe runs; a bare day stays one.
    const said = { ...cart, started_at: '2026-11-01 08:00', updated_at: '2026-11-01T10:30+02:00' };
    expect(mergeShopper(NEW_SHOPPER, { cart: said, orders: [order] })).toMatchObject({
      orders: [{ placed_at: '2026-11-03' }],
    });
    expect(mergeShopper(NEW_SHOPPER, { cart: said, orders: [] }).cart).toMatchObject({
      started_at: '2026-11-01T08:00:00.000Z',
      updated_at: '2026-11-01T08:30:00.000Z',
    });
    expect(mergeShopper(NEW_SHOPPER, { cart, orders: [order] })).toMatchObject({
      cart: null,
      orders: [{ number: 'N9' }],
    });
  });
});

describe('the record', () => {
  const shared: SharedData = {
    shop: { url: 'https://s.example' },
    catalog: {
      garden: [{ sku: 'A', name: 'Aster', image: 'https://p.example/a.png', in_stock: true }],
    },
    feeds: {},
    coupon: {},
  };
  const catalog = JSON.stringify(shared.catalog);
  const data = {
    person: { email: 'a@b.example', joined: '2026-01-02' },
    shopper: foldEvents([add('1', 1, 'A', 2), add('2', 2, 'GONE', 1)]),
    rank: 4,
  };

  test('links lead to where the server is, and formulas read nothing of that', () => {
    const home = 'https://mail.example';
    const record = assembleRecord({ ...data, token: 't' }, { ...shared, home }, new Map());
    expect(record).toMatchObject({ links: { view_in_browser: `${home}/mail/view/t` } });
    expect(Object.keys(record)).not.toContain('home');
  });

  test('joins the catalog to lines, reckons totals and reads dates', () => {
    const record = assembleRecord(data, shared, productIndex(shared));
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
      links: { unsubscribe: 'https://s.example/mail/unsubscribe/nobody' },
    });
    expect(record['order']).toBeUndefined();
    expect((record['cart'] as { lines: object[] }).lines[1]).not.toHaveProperty('product');
  });

  test('what is used up becomes the same record as a copy, and what is copied stays as it was', () => {
    const word = fc.constantFrom('', 'Aster', '2026-03-01', 'https://p.example/x.png');
    const line = fc.record(
      {
        sku: fc.constantFrom('A', 'GONE'),
        name: word,
        image: word,
        price: fc.integer({ min: 0, max: 90 }),
        quantity: fc.integer({ min: 1, max: 9 }),
        total: fc.integer({ min: 0, max: 900 }),
        properties: fc.array(fc.record({ name: word, value: word }), { maxLength: 2 }),
      },
      { requiredKeys: ['sku', 'price', 'quantity', 'total'] },
    );
    const cart = fc.record(
      {
        ...{ id: word, started_at: word, updated_at: word, currency: fc.constant('GBP') },
        ...{ lines: fc.array(line, { maxLength: 4 }), total: fc.integer({ min: 0 }) },
      },
      { requiredKeys: ['id', 'started_at', 'updated_at', 'currency', 'lines'] },
    );
    const order = fc.record(
      {
        ...{ number: word, placed_at: word, currency: fc.constant('GBP'), note: word },
        ...{ status: fc.constantFrom('Sent', 'Cancelled', 'Awaiting payment') },
        ...{ lines: fc.array(line, { maxLength: 3 }), subtotal: fc.nat(), total: fc.nat() },
      },
      { requiredKeys: ['number', 'placed_at', 'status', 'currency', 'lines', 'subtotal', 'total'] },
    );
    const person = fc.dictionary(
      fc.constantFrom('email', 'joined', 'birthday', 'tags', '__proto__', 'constructor'),
      fc.oneof(word, fc.constant({ date: '2026-03-02' }), fc.array(word, { maxLength: 2 })),
    );
    const picks = fc.constantFrom(undefined, { best: [{ sku: 'A', reason: 'It sells', step: 1 }] });
    fc.assert(
      fc.property(
        fc.record({
          person,
          picks,
          shopper: fc.record({
            cart: fc.option(cart),
            orders: fc.array(order, { maxLength: 3 }),
            last_seen_at: fc.option(word),
          }),
        }),
        (given) => {
          const text = JSON.stringify(given);
          const fresh = () => JSON.parse(text) as Parameters<typeof assembleRecord>[0];
          const kept = fresh();
          const copied = assembleRecord(kept, shared, productIndex(shared));
          expect(JSON.stringify(kept)).toBe(text);
          const used = assembleRecord(fresh(), shared, productIndex(shared), { usesUp: true });
          expect(used).toEqual(copied);
          expect(JSON.stringify(shared.catalog)).toBe(catalog);
        },
      ),
    );
  });

  test('every order is there, the first one first, where it is asked for', () => {
    const order = (number: string, sku: string) => ({
      ...{ number, placed_at: '2026-03-01T09:00:00.000Z', status: 'Paid', currency: 'GBP' },
      lines: [{ sku, name: sku, price: 2, quantity: 1, total: 2, properties: [] }],
      ...{ subtotal: 2, total: 2 },
    });
    const shopper = { ...NEW_SHOPPER, orders: [order('1', 'S-1'), order('2', 'S-2')] };
    for (const usesUp of [false, true]) {
      const whole = assembleRecord(
        structuredClone({ ...data, shopper }),
        shared,
        productIndex(shared),
        { usesUp },
      ) as unknown as { order: object; orders: { number: string; placed_at: Date }[] };
      expect(whole.orders.map(({ number }) => number)).toEqual(['1', '2']);
      expect(whole.orders[0]?.placed_at).toEqual(new Date('2026-03-01T09:00:00Z'));
      expect(whole.orders[1]).toEqual(whole.order);
    }
    const some = assembleRecord({ ...data, shopper }, shared, productIndex(shared), {
      reads: new Set(['person', 'order']),
    });
    expect(some).not.toHaveProperty('orders');
  });

  test('without a cart there is none', () => {
    expect(
      assembleRecord({ ...data, shopper: NEW_SHOPPER }, shared, productIndex(shared)),
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
  const buyer = (orders: number) => ({
    orders,
    spent: orders * 10,
    last_order_at: orders === 0 ? null : `2026-11-0${orders}T09:00:00.000Z`,
  });
  expect(ranks([0, 1, 2, 3, 4, 5].map(buyer))).toEqual([undefined, 1, 2, 3, 4, 5]);
});
