import type { ListedCart, OutboxSummary } from '@carafe/contract';
import { foldEvents, NEW_SHOPPER, type ShopEvent } from '@carafe/core/record';
import type { OutboxWanted, PlacedRow } from './lists';
import { asking, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());
const api = asking(() => carafe);

const iso = (at: number) => new Date(at).toISOString();
const NOW = () => Date.parse('2026-11-24T09:00:00Z');

/** So many mails, one a second, every third of them held; some at the same instant. */
async function mails(count: number): Promise<void> {
  const { outbox } = carafe.tables;
  await carafe.store.write(() => {
    for (let i = 0; i < count; i++) {
      const email = `p${i}@post.example`;
      const at = NOW() - Math.floor(i / 3) * 1_000;
      const mode = i % 3 === 0 ? 'held' : 'on';
      const step = { id: 'm', kind: 'send', template: 't', mail: 'service', mode, to: 'person' };
      const effect = { kind: 'mail', occasion: 'o', version: 1, cause: `c${i}`, about: {}, at };
      const mail = { ...effect, key: `c${i} m`, step, beside: {} } as never;
      outbox.insert(`m${i}`, 's', email, mail, {});
    }
  });
}

/** All rows that are wanted, so many at a time; `between` is done after each of them. */
async function read(wanted: OutboxWanted, most: number, between = async (_: PlacedRow[]) => {}) {
  const ids: string[] = [];
  for (let last: PlacedRow | null = null; ;) {
    const rows: PlacedRow[] = carafe.tables.outbox.after(wanted, last, most);
    ids.push(...rows.map(({ id }) => id));
    await between(rows);
    if (rows.length < most) return ids;
    last = rows.at(-1) ?? null;
  }
}

test.each([1, 2, 3, 4, 500])(
  'rows are read %i at a time, each once and in the order of the list, whatever is asked',
  async (most) => {
    await mails(most < 5 ? 61 : 1_234);
    const { outbox } = carafe.tables;
    for (const wanted of [
      { shop: 's' },
      { shop: 's', state: 'held' as const },
      { shop: 's', email: 'p7@post.example' },
      { shop: 's', search: 'p11' },
    ]) {
      const ids = await read(wanted, most);
      expect(ids).toEqual(outbox.list(wanted, 5_000, 0).map(({ id }) => id));
      expect(ids).toHaveLength(outbox.count(wanted));
    }
    expect(await read({ shop: 's', state: 'sent' }, most)).toEqual([]);
  },
);

test('while mails are read one after the other, others write', async () => {
  await mails(600);
  const { outbox } = carafe.tables;
  const all = await read({ shop: 's' }, 100, async (rows) => {
    const held = rows.find(({ state }) => state === 'held');
    if (held) await carafe.store.write(() => outbox.move(held.id, 'held', 'stopped', 'x'));
  });
  expect(all).toHaveLength(600);
  expect(outbox.count({ shop: 's', state: 'stopped' })).toBe(6);
});

test('very many are approved, stopped and exported at once, each once', async () => {
  await mails(1_502);
  const { outbox } = carafe.tables;
  const change = async (body: object) =>
    (await api('post', '/shops/s/outbox/changes', body)).body as { changed: number };
  const some = outbox.count({ shop: 's', search: 'p1' });
  expect(some).toBeGreaterThan(500);
  expect(await change({ to: 'stop', query: { search: 'p1' } })).toEqual({ changed: some });
  const held = outbox.count({ shop: 's', state: 'held' });
  // Their occasion is not on any more: that is asked first.
  expect(await change({ to: 'approve', query: {} })).not.toHaveProperty('changed');
  expect(await change({ to: 'approve', query: {}, even_off: true })).toEqual({ changed: held });
  expect(outbox.count({ shop: 's', state: 'held' })).toBe(0);
  const csv = (await api('get', '/shops/s/outbox.csv')).text.trimEnd().split('\r\n');
  expect(csv).toHaveLength(1 + 1_502);
  expect(new Set(csv).size).toBe(1 + 1_502);
});

test('mails are counted by state, and a page says how many there are', async () => {
  await mails(30);
  const summary = (await api('get', '/shops/s/outbox/summary')).body as OutboxSummary;
  expect(Object.fromEntries(summary.states.map(({ state, count }) => [state, count]))).toEqual({
    ...{ held: 10, waiting: 20 },
  });
  const page = (await api('get', '/shops/s/outbox?state=held&limit=4&offset=8')).body as {
    total: number;
    mails: { id: string }[];
  };
  expect([page.total, page.mails.length]).toEqual([10, 2]);
});

const added = (at: number, sku: string): ShopEvent => ({
  ...{ id: `${sku} ${at}`, at: iso(at), shop: 's', email: 'x@post.example', kind: 'cart_added' },
  ...{ sku, name: `Thing ${sku}`, price: 2.5, quantity: 2, currency: 'EUR' },
});

test('carts that are left and orders that nobody paid are listed, the latest first, with the last mail', async () => {
  const HOUR = 3_600_000;
  const { people } = carafe.tables;
  const keep = (email: string, events: ShopEvent[]) =>
    people.keep('s', email.toLowerCase(), { email, consent: true }, foldEvents(events));
  const placed = (at: number, number: string): ShopEvent => ({
    ...{
      id: number,
      at: iso(at),
      shop: 's',
      email: 'x@post.example',
      kind: 'order_placed',
      number,
    },
    ...{ status: 'Awaiting payment' },
  });
  await carafe.store.write(() => {
    keep('P1@post.example', [added(NOW() - 5 * HOUR, 'A'), added(NOW() - 4 * HOUR, 'B')]);
    keep('p2@post.example', [added(NOW() - 2 * HOUR, 'C')]);
    // Touched just now; given up; nothing at all; ordered and not paid.
    keep('p3@post.example', [added(NOW() - 60_000, 'D')]);
    keep('p4@post.example', [added(NOW() - 400 * 24 * HOUR, 'E')]);
    people.keep('s', 'p5@post.example', { email: 'p5@post.example' }, NEW_SHOPPER);
    keep('p6@post.example', [added(NOW() - 9 * HOUR, 'F'), placed(NOW() - 8 * HOUR, 'N1')]);
  });
  await mails(3);
  const rows = async (list: string) =>
    ((await api('get', `/shops/s/lists/${list}`)).body as { rows: ListedCart[] }).rows;
  const carts = await rows('carts');
  expect(carts.map(({ email, what, total }) => [email, what, total])).toEqual([
    ['p2@post.example', 'Thing C', 5],
    ['P1@post.example', 'Thing A, Thing B', 10],
  ]);
  expect(carts.map(({ last_mail }) => last_mail !== null)).toEqual([true, true]);
  const [order, ...more] = await rows('orders');
  expect([order?.email, order?.what, order?.last_mail, more]).toEqual([
    'p6@post.example',
    'N1',
    null,
    [],
  ]);
  expect((await api('get', '/shops/s/lists/wishes')).status).toBe(404);
});

test('an email is found by the name of the person, who is named in the list', async () => {
  await mails(2);
  const { db } = carafe.store;
  const record = JSON.stringify({ first_name: 'Wilhelmina', last_name: 'Oak' });
  db.prepare('INSERT INTO people (shop, email, record) VALUES (?, ?, ?)').run(
    ...['s', 'p1@post.example', record],
  );
  const found = (await api('get', '/shops/s/outbox?search=mina%20oak')).body as {
    mails: { name: string | null }[];
  };
  expect(new Set(found.mails.map(({ name }) => name))).toEqual(new Set(['Wilhelmina Oak']));
  expect((await api('get', '/shops/s/outbox?search=nobody%20oak')).body).toMatchObject({
    total: 0,
  });
});
