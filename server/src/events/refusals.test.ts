import request from 'supertest';
import type { Express } from 'express';
import { importRows } from '../imports/importRows';
import { testServer, TEST_SHOP } from '../testing';

type Server = Awaited<ReturnType<typeof testServer>>;
let carafe: Server;
let app: Express;
let count = 0;
beforeEach(async () => {
  carafe = await testServer();
  ({ app } = carafe);
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

/** An event a minute after the one made before. */
function event(kind: string, more: object = {}) {
  count++;
  const at = new Date(Date.UTC(2026, 10, 1, 9, count)).toISOString();
  return { id: `e${count}`, at, shop: 's', email: 'ann@q.example', kind, ...more };
}
const add = (sku: string, more: object = {}) =>
  event('cart_added', { currency: 'EUR', sku, name: sku, price: 2, quantity: 1, ...more });
async function post(...events: object[]) {
  const { status, body } = await request(app)
    .post('/api/events')
    .set('Host', '127.0.0.1')
    .send(events);
  return { status, ...(body as { taken: number; refused: { place: number; message: string }[] }) };
}
function shopperOf(email: string) {
  const id = carafe.tables.people.idOf('s', email);
  return id === null ? undefined : carafe.tables.people.data('s', [id])[0]?.data.shopper;
}

describe('an order without lines', () => {
  test('is refused while the cart is empty, and can be sent again after the cart', async () => {
    const order = event('order_placed', { number: 'N1' });
    const first = await post(order);
    expect(first.status).toBe(422);
    expect(JSON.stringify(first)).toMatch(/Order “N1” has no “lines”, and the cart was empty at/);
    expect(shopperOf('ann@q.example')).toBeUndefined();
    // Nothing of it was kept: what comes after the cart is taken.
    const cart = { ...add('P'), at: '2026-11-01T08:00:00Z' };
    expect(await post(cart, order)).toMatchObject({ taken: 2, refused: [] });
    expect(shopperOf('ann@q.example')?.orders).toMatchObject([{ number: 'N1', total: 2 }]);
  });

  test('frees its id for what comes after it in the same request, in its own shop alone', async () => {
    carafe.tables.shops.insert({ ...TEST_SHOP, id: 't' });
    const order = event('order_placed', { number: 'N1' });
    const cart = { ...add('P'), id: order.id };
    const answer = await post(order, cart, { ...cart, sku: 'Q' });
    expect(answer).toMatchObject({ taken: 1, known: 1, refused: [{ place: 1 }] });
    expect(shopperOf('ann@q.example')?.cart?.lines).toMatchObject([{ sku: 'P', quantity: 1 }]);
    // An order of another shop has the id of one that is refused here, and keeps its number.
    const other = { ...event('order_placed', { number: 'N9', lines: [] }), id: 'same', shop: 's' };
    const lines = [{ sku: 'P', name: 'P', price: 1, quantity: 1 }];
    const sound = { ...event('order_placed', { number: 'N9', lines, currency: 'EUR' }), shop: 't' };
    const both = await post(
      { ...sound, id: 'same' },
      { ...sound, id: 'later' },
      {
        ...other,
        email: 'bo@q.example',
      },
    );
    expect(both.refused.map(({ place, message }) => [place, message.slice(0, 30)])).toEqual([
      [2, expect.stringMatching(/N9. was placed already/)],
      [3, expect.stringMatching(/N9. has no/)],
    ]);
  });

  test('is refused where the cart before it was emptied, or is of another currency', async () => {
    await post(add('P'), event('cart_removed', { sku: 'P' }));
    expect((await post(event('order_placed', { number: 'N1' }))).status).toBe(422);
    await post(add('P'));
    const pounds = event('order_placed', { number: 'N2', currency: 'GBP' });
    expect((await post(pounds)).status).toBe(422);
    await post(event('viewed', { sku: 'P' }));
    expect(await post(event('order_placed', { number: 'N3' }))).toMatchObject({ taken: 1 });
  });

  test('takes the cart of a guest who is known by it alone', async () => {
    const guest = { email: undefined, visitor: 'v1' };
    expect(
      await post(add('P', guest), event('order_placed', { ...guest, number: 'N1' })),
    ).toMatchObject({ taken: 2, refused: [] });
    expect(await post(event('order_placed', { ...guest, number: 'N2' }))).toMatchObject({
      status: 422,
    });
    await post(event('viewed', { visitor: 'v1', sku: 'P' }));
    expect(shopperOf('ann@q.example')?.orders.map((o) => o.number)).toEqual(['N1']);
  });

  test('is told by its place, beside others that are taken', async () => {
    const answer = await post(
      add('P'),
      event('order_placed', { number: 'N1' }),
      event('order_placed', { number: 'N2' }),
      { kind: 'danced' },
    );
    expect(answer).toMatchObject({ taken: 2, refused: [{ place: 3 }, { place: 4 }] });
    expect(answer.refused[0]?.message).toContain('“N2”');
    expect(answer.refused[0]?.message).toContain('Send what was ordered as “lines”');
  });
});

test('an empty list of lines says no more than none', async () => {
  const answer = await post(event('order_placed', { number: 'N1', lines: [], currency: 'EUR' }));
  expect(JSON.stringify(answer)).toMatch(/Order “N1” has no “lines”, and the cart was empty at/);
  await post(add('P'), event('order_placed', { number: 'N1', lines: [] }));
  expect(shopperOf('ann@q.example')?.orders).toMatchObject([{ number: 'N1', total: 2 }]);
});

test('of a number that is refused again and again, the last are to be sent by themselves', async () => {
  const many = Array.from({ length: 40 }, () => event('order_placed', { number: 'N1' }));
  const { status, ...answer } = await post(...many);
  expect(status).toBe(422);
  const text = JSON.stringify(answer);
  expect(text.match(/has no “lines”/g)?.length).toBeGreaterThanOrEqual(4);
  expect(text).toContain('Order “N1” appears many times in this request');
});

test('an event that is refused has placed no order: the next one with its number is taken', async () => {
  const own = { lines: [{ sku: 'P', name: 'P', price: 3, quantity: 1 }], currency: 'EUR' };
  const answer = await post(
    event('order_placed', { number: 'N1' }),
    event('viewed', { sku: 'P' }),
    event('order_placed', { number: 'N1', ...own }),
    event('order_placed', { number: 'N1', ...own }),
  );
  expect(answer).toMatchObject({ taken: 2, refused: [{ place: 1 }, { place: 4 }] });
  expect(answer.refused[0]?.message).toContain('has no “lines”');
  expect(answer.refused[1]?.message).toContain('was placed already');
  expect(shopperOf('ann@q.example')?.orders).toMatchObject([{ number: 'N1', total: 3 }]);
});

describe('ranks are worked out anew', () => {
  const rankOf = (email: string) => {
    const id = carafe.tables.people.idOf('s', email);
    return id === null ? undefined : carafe.tables.people.data('s', [id])[0]?.data.rank;
  };
  const own = { lines: [{ sku: 'P', name: 'P', price: 3, quantity: 1 }], currency: 'EUR' };

  test('when an order of a visitor turns out to be somebody’s', async () => {
    await post(event('order_placed', { email: undefined, visitor: 'v', number: 'N1', ...own }));
    await post(event('viewed', { visitor: 'v', sku: 'P' }));
    expect(rankOf('ann@q.example')).toBe(1);
  });

  test('when a status says that an order is cancelled, and when it stands again', async () => {
    await post(event('order_placed', { number: 'N1', ...own }));
    expect(rankOf('ann@q.example')).toBe(1);
    await post(event('order_status_changed', { number: 'N1', status: 'Cancelled' }));
    expect(rankOf('ann@q.example')).toBeUndefined();
    await post(event('order_status_changed', { number: 'N1', status: 'Sent' }));
    expect(rankOf('ann@q.example')).toBe(1);
  });
});

/** Imports events from a file. */
async function imported(all: readonly object[]) {
  const { imports, tables } = carafe;
  const id = 'r1';
  tables.sources.insert(
    {
      ...{ id, shop: 's', name: id, kind: 'file', target: 'events', formula_name: id },
      ...{ address: null, every_minutes: null, fresh_hours: 1, next_fetch_at: null },
    },
    '2026-01-01',
  );
  const text = all.map((one) => JSON.stringify(one)).join('\n');
  const one = await imports.receiveText(imports.sourceOf(id), 'e.ndjson', text);
  const look = await imports.look(one.id);
  await (
    await imports.check(one.id, { settings: look.settings, mode: 'whole' })
  ).done;
  return imports.apply(one.id);
}

test('an order of a file that comes to nothing is counted with its rejected rows, and told by its line', async () => {
  const { imports, tables } = carafe;
  const applied = await imported([
    event('order_placed', { number: 'N1' }),
    add('P'),
    event('order_placed', { number: 'N2' }),
  ]);
  expect(applied.counts).toMatchObject({ read: 3, new: 2, rejected: 1 });
  expect(tables.events.count('s')).toBe(2);
  expect(tables.sources.find('r1')?.row_count).toBe(2);
  expect(applied.message).toMatch(
    /^An order was not imported, the first on line 1\. .*“N1” has no/,
  );
  expect(importRows(tables.entries, imports.find(applied.id), 'rejected', 10, 0)).toMatchObject([
    { line: 1, problems: [{ message: expect.stringMatching(/“N1” has no “lines”/) as string }] },
  ]);
  expect(shopperOf('ann@q.example')?.orders).toMatchObject([{ number: 'N2' }]);
});

describe('what a refused order said of a visitor is not so', () => {
  /** The order names the visitor first, and comes to nothing: there is no cart in pounds. */
  const told = () => [
    add('P', { email: undefined, visitor: 'v1' }),
    event('order_placed', { visitor: 'v1', number: 'N1', currency: 'GBP' }),
    event('viewed', { visitor: 'v1', email: 'bo@q.example', sku: 'P' }),
  ];
  const isBos = () => {
    expect(shopperOf('bo@q.example')?.cart?.lines).toMatchObject([{ sku: 'P' }]);
    expect(shopperOf('ann@q.example')).toBeUndefined();
  };

  test('when it is posted', async () => {
    expect(await post(...told())).toMatchObject({ taken: 2, refused: [{ place: 2 }] });
    isBos();
  });

  test('when it stands in a file', async () => {
    expect((await imported(told())).counts).toMatchObject({ new: 2, rejected: 1 });
    isBos();
  });

  test('and what comes to nothing by that is refused with it', async () => {
    // Ann's, as long as the first order says so; Bo's otherwise, and Ann has no cart to order.
    const [put, pounds, view] = told();
    const order = event('order_placed', { number: 'N2' });
    const answer = await post(...[put, pounds, view, order].filter((one) => one !== undefined));
    expect(answer).toMatchObject({ taken: 2, refused: [{ place: 2 }, { place: 4 }] });
    isBos();
  });
});

test('a number that was placed already is told as such; the same event again is known', async () => {
  const lines = [{ sku: 'P', name: 'P', price: 3, quantity: 1 }];
  const order = event('order_placed', { number: 'N1', currency: 'EUR', lines });
  await post(order);
  expect(await post(order)).toMatchObject({ taken: 0, known: 1 });
  const again = await post({ ...order, id: 'other', email: 'eve@q.example' });
  expect(again.status).toBe(422);
  expect(JSON.stringify(again)).toMatch(
    /Order “N1” was placed already, at 2026-11-01 \d\d:\d\d UTC/,
  );
  expect(shopperOf('eve@q.example')).toBeUndefined();
});

test('what is said of an order reaches it, whoever says it and whenever it comes', async () => {
  const lines = [{ sku: 'P', name: 'P', price: 3, quantity: 1 }];
  const early = event('order_status_changed', {
    number: 'N1',
    status: 'Packed',
    email: 'desk@s.example',
  });
  await post(early);
  await post(event('order_placed', { number: 'N1', currency: 'EUR', lines }));
  const statusNow = () => shopperOf('ann@q.example')?.orders[0]?.status;
  expect(statusNow()).toBe('Packed');
  const till = { email: undefined, visitor: 'the-till' };
  await post(event('order_status_changed', { ...till, number: 'N1', status: 'Sent' }));
  expect(statusNow()).toBe('Sent');
  await post(event('order_cancelled', { number: 'N1', email: 'desk@s.example' }));
  expect(statusNow()).toBe('Cancelled');
});

test('events of one instant count in the order in which they were received', async () => {
  const at = '2026-11-01T09:00:00Z';
  await post({ ...add('P'), id: 'z', at }, { ...event('cart_removed', { sku: 'P' }), id: 'a', at });
  expect(shopperOf('ann@q.example')?.cart).toBeNull();
  await post({ ...event('cart_removed', { sku: 'Q' }), id: 'b', at }, { ...add('Q'), id: 'c', at });
  expect(shopperOf('ann@q.example')?.cart?.lines.map((l) => l.sku)).toEqual(['Q']);
});
