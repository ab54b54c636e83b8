import { NEW_SHOPPER } from '@carafe/core/record';
import { TEST_SHOP, testServer } from '../testing';
import { peopleRepository } from './repository';

let carafe: Awaited<ReturnType<typeof testServer>>;
let ids: number[];
beforeAll(async () => {
  carafe = await testServer();
  const { shops, people } = carafe.tables;
  shops.insert(TEST_SHOP);
  shops.insert({ ...TEST_SHOP, id: 'other' });
  ids = ['a', 'b', 'c', 'd'].map((name, i) =>
    people.keep(i === 1 ? 'other' : 's', `${name}@q.example`, { first_name: name }, NEW_SHOPPER),
  );
});
afterAll(() => carafe.store.close());

test('people are read by their ids, each once, in order; of the shop alone', () => {
  const { people } = carafe.tables;
  const [a = 0, b = 0, c = 0, d = 0] = ids;
  const names = (wanted: number[]) => people.bare('s', wanted).map(({ id }) => id);
  expect(names([d, a, d, b, 99_999])).toEqual([a, d]);
  expect(names([])).toEqual([]);
  expect(people.data('s', [c]).map(({ data }) => data.person)).toEqual([{ first_name: 'c' }]);
  expect(people.some('s', [b, c]).map(({ name }) => name)).toEqual(['c']);
  expect(people.idsAfter('s', a, 10)).toEqual([c, d]);
  expect(people.idsAfter('s', 0, 2)).toEqual([a, c]);
  expect([...people.all('s')]).toHaveLength(3);
});

test('who has nothing in the cart, or no order, is left out where that is asked for', () => {
  const { people } = carafe.tables;
  const one = { sku: 'a', name: 'A', price: 1, quantity: 1, total: 1, properties: [] };
  const cart = { id: 'c', started_at: '', updated_at: '', currency: 'GBP', lines: [one] };
  const order = { number: '1', placed_at: '', status: 'Received', currency: 'GBP', lines: [one] };
  const money = { subtotal: 1, discount: 0, shipping: 0, total: 1 };
  people.keep('s', 'c@q.example', {}, { ...NEW_SHOPPER, cart } as never);
  people.keep('s', 'd@q.example', {}, {
    ...NEW_SHOPPER,
    orders: [{ ...order, ...money }],
  } as never);
  const [a = 0, , c = 0, d = 0] = ids;
  const of = (having?: 'all' | 'cart' | 'order') =>
    people.bare('s', ids, having).map(({ id }) => id);
  expect([of(), of('all'), of('cart'), of('order')]).toEqual([[a, c, d], [a, c, d], [c], [d]]);
  for (const id of [c, d])
    people.keep('s', id === c ? 'c@q.example' : 'd@q.example', {}, NEW_SHOPPER);
  expect([of('cart'), of('order')]).toEqual([[], []]);
});

test('people are read by their addresses, of the shop alone, each with what stands for them in links', () => {
  const { people } = carafe.tables;
  const [a, , c] = ids;
  const asked = ['c@q.example', 'a@q.example', 'b@q.example', 'nobody@q.example'];
  const found = people.ofEmails('s', asked);
  expect([...found.keys()].sort()).toEqual(['a@q.example', 'c@q.example']);
  expect(found.get('a@q.example')?.id).toBe(a);
  expect(found.get('c@q.example')).toEqual(people.data('s', [c ?? 0])[0]);
  expect(people.ofEmails('s', []).size).toBe(0);
});

test('whoever is read by id costs the same among many: no list of all addresses of a shop is walked', () => {
  const { db } = carafe.store;
  const prepared: string[] = [];
  const own = db.prepare.bind(db);
  db.prepare = ((sql: string) => {
    prepared.push(sql);
    return own(sql);
  }) as typeof db.prepare;
  try {
    peopleRepository(db);
  } finally {
    db.prepare = own;
  }
  const planOf = (sql: string) => {
    const given = Array.from(sql.matchAll(/\?/g), () => null);
    const named = Array.from(sql.matchAll(/@(\w+)/g), ([, name]) => [name, null]);
    const values = named.length > 0 ? [Object.fromEntries(named)] : given;
    const plan = own(`EXPLAIN QUERY PLAN ${sql}`).all(...values) as { detail: string }[];
    return plan.map(({ detail }) => detail);
  };
  const byEmail = prepared.filter((sql) => /email = wanted\.value/.test(sql));
  expect(byEmail).toHaveLength(1);
  expect(planOf(byEmail[0] ?? '').join()).toContain('(shop=? AND email=?)');
  const byId = prepared.filter((sql) => /id = wanted\.value|id > \?/.test(sql));
  expect(byId).toHaveLength(2);
  for (const sql of byId) {
    const details = planOf(sql);
    expect(details).toContainEqual(expect.stringContaining('people USING INTEGER PRIMARY KEY'));
    expect(details.join()).not.toContain('autoindex_people');
  }
});
