import type { AddressInfo } from 'node:net';
import type { SourceSummary } from '@carafe/contract';
import type { Express } from 'express';
import request from 'supertest';
import { everyone } from '../people/listing';
import { testServer } from '../testing';

type Server = Awaited<ReturnType<typeof testServer>>;
let app: Express;
let carafe: Server;
let tables: Server['tables'];
let imports: Server['imports'];
beforeAll(async () => {
  carafe = await testServer({ demo: true });
  ({ app, tables, imports } = carafe);
}, 60_000);
afterAll(() => carafe.store.close());

const shop = 'quillmoss-gb';
const get = (path: string) => request(app).get(path).set('Host', '127.0.0.1');
const post = (path: string) => request(app).post(path).set('Host', '127.0.0.1');
const send = (events: unknown) => post('/api/events').send(events as object);
const at = (minute: number) => new Date(Date.UTC(2026, 10, 24, 8, minute)).toISOString();
const added = (id: string, minute: number, sku: string, more: object = {}) => ({
  ...{ id, at: at(minute), shop, kind: 'cart_added', sku, name: sku, price: 5, quantity: 1 },
  currency: 'GBP',
  ...more,
});
async function seen(email: string) {
  const answer = await get(`/api/shops/${shop}/person?email=${email}`);
  return {
    status: answer.status,
    ...(answer.body as {
      record: { cart?: { lines: { sku: string }[] }; order?: object; person: { guest?: boolean } };
      events: object[];
    }),
  };
}

describe('events', () => {
  test('of a visitor become a guest’s cart when the address is known, in whatever order they come', async () => {
    const told: unknown[] = [];
    const quit = carafe.updates.listen(({ update }) => update.type !== 'here' && told.push(update));
    await send(added('v2', 2, 'B', { visitor: 'web-1' }));
    await send(
      added('v1', 1, 'A', {
        visitor: 'web-1',
        properties: [{ name: 'Engraved label', value: 'Row 9' }],
      }),
    );
    expect(told).toEqual([]);
    const known = {
      id: 'v3',
      at: at(3),
      shop,
      kind: 'checkout_started',
      visitor: 'web-1',
      email: 'New.Guest@Post.example',
    };
    expect((await send({ ...known, person: { first_name: 'Nora' } })).body).toEqual({
      taken: 1,
      dropped: [],
      known: 0,
      refused: [],
    });
    quit();
    const person = await seen('new.guest@post.example');
    expect(person.record).toMatchObject({
      person: { guest: true, first_name: 'Nora', consent: false },
      cart: { lines: [{ sku: 'A', properties: [{ value: 'Row 9' }] }, { sku: 'B' }] },
    });
    expect(person.events).toHaveLength(3);
    expect(told).toMatchObject([{ type: 'people', shop }]);
    const { ids } = told[0] as { ids: number[] };
    const listed = await get(`/api/shops/${shop}/recipients/some?ids=${ids.join(',')}`);
    expect(listed.body).toMatchObject({ recipients: [{ name: 'Nora', lines: 2 }] });
  });

  test('that come twice change nothing; NDJSON and lists are taken too', async () => {
    const other = await send([added('v1', 1, 'A', { visitor: 'web-1' })]);
    expect(other.status).toBe(422);
    expect(JSON.stringify(other.body)).toContain('was received before with different content');
    const properties = [{ name: 'Engraved label', value: 'Row 9' }];
    const again = await send([
      added('v1', 1, 'A', { visitor: 'web-1', properties }),
      added('v9', 9, 'C', { visitor: 'web-1' }),
    ]);
    expect(again.body).toMatchObject({ taken: 1, known: 1 });
    const lines = await post('/api/events')
      .set('content-type', 'application/x-ndjson')
      .send(`${JSON.stringify(added('w1', 10, 'D', { visitor: 'web-1' }))}\n`);
    expect(lines.body).toMatchObject({ taken: 1 });
    expect((await seen('new.guest@post.example')).record.cart?.lines.map((l) => l.sku)).toEqual([
      'A',
      'B',
      'C',
      'D',
    ]);
  });

  test('make orders, cancel them, and are refused with the place', async () => {
    const head = { shop, visitor: 'web-1' };
    await send([
      { ...head, id: 'o1', at: at(20), kind: 'order_placed', number: 'T-1', note: 'By the gate' },
      { ...head, id: 'o2', at: at(21), kind: 'order_cancelled', number: 'T-1' },
    ]);
    const { record } = await seen('new.guest@post.example');
    expect(record.order).toMatchObject({ number: 'T-1', status: 'Cancelled', note: 'By the gate' });
    expect(record.cart).toBeUndefined();
    const mixed = await send([
      added('x1', 1, 'A', { shop: 'nowhere', visitor: 'w' }),
      { kind: 'danced' },
      added('x2', 30, 'A', { visitor: 'web-1' }),
    ]);
    expect([mixed.status, mixed.body]).toMatchObject([
      200,
      { taken: 1, refused: [{ place: 1 }, { place: 2 }] },
    ]);
    expect((await send({ kind: 'danced' })).status).toBe(422);
    expect((await send([])).status).toBe(400);
  });

  test('of a file come in once, make guests whole, and are gone back from without what came otherwise', async () => {
    const source = tables.sources.list().find((s) => s.target === 'events' && s.shop === shop);
    if (!source) throw new Error('The demo has a source of events.');
    await send(added('y1', 40, 'A', { visitor: 'web-2' }));
    const lines = [
      {
        id: 'y2',
        at: at(41),
        shop,
        kind: 'checkout_started',
        visitor: 'web-2',
        email: 'late@post.example',
      },
      added('y2', 41, 'B', { visitor: 'web-2' }),
      added('y1', 40, 'A', { visitor: 'web-2' }),
      added('y3', 42, 'B', { visitor: 'web-2', shop: 'quillmoss-eu' }),
      { kind: 'danced' },
    ];
    const text = lines.map((line) => JSON.stringify(line)).join('\n');
    const one = await imports.receiveText(source, 'more.ndjson', text);
    const settings = { ...(source.settings as object) };
    const checked = await (await imports.check(one.id, { settings, mode: 'part' })).done;
    expect(checked.counts).toMatchObject({ read: 5, new: 1, unchanged: 2, rejected: 2 });
    await imports.apply(one.id);
    expect((await seen('late@post.example')).record.cart?.lines.map((l) => l.sku)).toEqual(['A']);
    await imports.undo(one.id);
    expect((await seen('late@post.example')).status).toBe(404);
    expect(tables.events.count(shop)).toBeGreaterThan(10_000);
    await expect(imports.undo(one.id)).rejects.toThrow(/Only the last import/);
  });

  test('make people too: without the source of people all who have events are guests', async () => {
    const count = () => tables.people.emails(shop).length;
    const before = count();
    const source = tables.sources.list().find((s) => s.target === 'people' && s.shop === shop);
    if (!source) throw new Error('The demo has a source of people.');
    const [first] = tables.people.list(shop, everyone(), 1, 0).recipients;
    await request(app).delete(`/api/sources/${source.id}`).set('Host', '127.0.0.1');
    expect(count()).toBe(tables.events.owners(shop).length);
    expect((await seen(first?.email ?? '')).record).toMatchObject({
      person: { guest: true, orders_count: 1 },
      cart: { count: 3 },
    });
    await post(`/api/sources/${source.id}/restore`);
    expect(count()).toBe(before);
    expect((await seen(first?.email ?? '')).record.person).toMatchObject({ first_name: 'Maud' });
  });

  test('have a JSON Schema each', async () => {
    const schema = await get('/api/schema/events/cart_added.json');
    expect(schema.headers['content-type']).toContain('schema+json');
    expect(JSON.parse(schema.text)).toMatchObject({ title: 'cart_added' });
    expect((await get('/api/schema/events/danced.json')).status).toBe(404);
  });
});

test('updates are published on from what was heard last; a page that missed too much is told so', () => {
  const heard: [string, string][] = [];
  const listener = ({ id, update }: { id: string; update: { type: string } }) =>
    void heard.push([id, update.type]);
  const { updates } = carafe;
  const quit = updates.listen(listener);
  updates.publish({ type: 'source', id: 'a' });
  quit();
  updates.publish({ type: 'shared', shop: null });
  const last = heard.at(-1)?.[0] ?? '';
  updates.listen(listener, last)();
  expect(heard.map(([, type]) => type)).toEqual(['here', 'source', 'shared']);
  const types = (since: string) => {
    heard.length = 0;
    updates.listen(listener, since)();
    return heard.map(([, type]) => type);
  };
  // Of another start of the server, from before what is kept, and made up.
  expect(types('other-1')).toEqual(['stale']);
  expect(types(last)).toEqual(['shared']);
  for (let i = 0; i < 300; i++) updates.publish({ type: 'source', id: 'b' });
  expect(types(last)).toEqual(['stale']);
  expect(types('')).toEqual(['stale']);
  expect(types(`${last}x`)).toEqual(['stale']);
});

describe('the stand-ins', () => {
  test('a post is published and read back in every format, its words as words', async () => {
    const words = 'First line & co\n\nSecond';
    expect(
      (await post('/journal/furrow/posts').send({ title: 'Frost & rime', words })).status,
    ).toBe(201);
    const read = (file: string) =>
      get(`/journal/furrow/${file}`)
        .buffer(true)
        .parse((answer, done) => {
          let all = '';
          answer.on('data', (chunk) => (all += String(chunk)));
          answer.on('end', () => done(null, all));
        })
        .then((answer) => answer.body as string);
    const { readFeed } = await import('@carafe/core/formats');
    for (const file of ['rss.xml', 'atom.xml', 'feed.json'])
      expect(readFeed(await read(file)).posts[0]).toMatchObject({
        title: 'Frost & rime',
        summary: 'First line & co',
      });
    expect((await post('/journal/furrow/posts').send({ title: '', words })).status).toBe(400);
    // What a word processor pastes along is no XML.
    const pasted = { title: 'a\u0001b\vc\ud800', words: 'One\r\n\r\nTwo\u0000\ufffe' };
    expect((await post('/journal/furrow/posts').send(pasted)).status).toBe(201);
    const text = await read('rss.xml');
    expect(text).not.toMatch(/[\0-\x08\x0B-\x1F\uD800-\uDFFF\uFFFE\uFFFF]/);
    expect(readFeed(text).posts[0]).toMatchObject({
      ...{ title: 'ab c\ufffd', summary: 'One', content: '<p>One</p><p>Two</p>' },
    });
    expect((await get('/journal/nothing/rss.xml')).status).toBe(404);
  });
  test('the shop shows its own products', async () => {
    const { body } = (await get('/shop/catalog/quillmoss-eu.json')) as {
      body: { products: object[] };
    };
    expect(body.products).toHaveLength(240);
  });
});

describe('orders', () => {
  const EMAIL = 'orders@post.example';
  const event = (id: string, minute: number, kind: string, more: object) => ({
    ...{ id, at: at(minute), shop, kind, number: 'CH-1' },
    ...more,
  });
  const line = { sku: 'A', name: 'A', price: 10, quantity: 2 };
  const order = async () => (await seen(EMAIL)).record.order as Record<string, unknown> | undefined;

  test('can be changed, refunded and cancelled, by their number alone', async () => {
    await send(
      event('ch1', 1, 'order_placed', {
        email: EMAIL,
        currency: 'GBP',
        lines: [line],
        shipping: 5,
      }),
    );
    expect(await order()).toMatchObject({ total: 25 });
    await send(
      event('ch2', 2, 'order_changed', { lines: [{ ...line, quantity: 1 }], discount: 2 }),
    );
    expect(await order()).toMatchObject({ subtotal: 10, shipping: 5, discount: 2, total: 13 });
    await send(event('ch3', 3, 'order_refunded', { amount: 3 }));
    expect(await order()).toMatchObject({ total: 13, refunded: 3 });
    const person = (await seen(EMAIL)).record.person as unknown as { orders_total: number };
    expect(person.orders_total).toBe(10);
    await send(event('ch4', 4, 'order_cancelled', {}));
    expect((await seen(EMAIL)).record.person).toMatchObject({ orders_total: 0, orders_count: 0 });
    const unknown = await send({ ...event('ch5', 5, 'order_cancelled', {}), number: 'NONE' });
    expect([unknown.status, JSON.stringify(unknown.body)]).toEqual([
      422,
      expect.stringContaining('No order “NONE” is known.'),
    ]);
  });

  test('fields of the shop’s own are kept; what is dropped is told; a bad line refuses itself alone', async () => {
    const own = { ...added('fx1', 1, 'A', { email: EMAIL }), fields: { till: 3 }, colour: 'red' };
    const { body } = await post('/api/events')
      .set('content-type', 'application/x-ndjson')
      .send(`${JSON.stringify(own)}\n{"broken\n`);
    expect(body).toMatchObject({
      taken: 1,
      dropped: [{ place: 1, names: ['colour'] }],
      refused: [{ place: 2, message: expect.stringMatching(/^Line 2/) as string }],
    });
    const kept = tables.events.of(shop, EMAIL).find(({ id }) => id === 'fx1');
    expect(kept).toMatchObject({ fields: { till: 3 } });
    expect(kept).not.toHaveProperty('colour');
  });
});

describe('addresses', () => {
  test('are fetched when their time has come; a failure keeps what was there', async () => {
    const list = async () =>
      ((await get('/api/sources')).body as { sources: SourceSummary[] }).sources.filter(
        (s) => s.target === 'feed',
      );
    const before = await list();
    expect(before.map((s) => [s.status, s.rows])).toEqual([
      ['fresh', 6],
      ['fresh', 4],
    ]);
    await carafe.fetching.fetchDue();
    await carafe.queue.idle();
    expect(await list()).toEqual(before);
    carafe.wait(2);
    // The stand-in is not listening in this test: the fetch fails, and says so.
    carafe.setSelf('http://127.0.0.1:9');
    await carafe.fetching.fetchDue();
    await carafe.queue.idle();
    const after = await list();
    expect(after.map((s) => [s.status, s.rows])).toEqual([
      ['failed', 6],
      ['failed', 4],
    ]);
    expect(after[0]?.failure).toContain('does not answer');
    const live = app.listen(0);
    await new Promise((done) => live.once('listening', done));
    const self = `http://127.0.0.1:${(live.address() as AddressInfo).port}`;
    carafe.wait(2);
    carafe.setSelf(self);
    await carafe.clock.tick();
    await carafe.queue.idle();
    live.close();
    expect((await list()).map((s) => [s.status, s.rows])).toEqual([
      ['fresh', 8],
      ['fresh', 4],
    ]);
  });

  test('a catalog that lost most of its rows waits for somebody', async () => {
    const source = tables.sources.list().find((s) => s.target === 'catalog');
    if (!source) throw new Error('The demo has a catalog.');
    const one = await imports.receiveText(
      source,
      'garden.csv',
      'sku,name,price\nS-101,Only one left,2',
    );
    expect(await imports.takeBySelf(one)).toMatchObject({
      state: 'checked',
      counts: { gone: 239 },
    });
    expect(tables.sources.find(source.id)?.row_count).toBe(240);
    const listed = ((await get('/api/sources')).body as { sources: SourceSummary[] }).sources;
    expect(listed.find((s) => s.id === source.id)).toMatchObject({
      status: 'waiting',
      waiting_import: one.id,
    });
    await request(app).delete(`/api/imports/${one.id}`).set('Host', '127.0.0.1');
    expect(tables.imports.waiting(source.id)).toBeNull();
  });
});
