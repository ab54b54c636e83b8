import type { PicksOfPerson } from '@carafe/contract';
import request from 'supertest';
import { testServer, TEST_SHOP } from '../testing';

type Server = Awaited<ReturnType<typeof testServer>>;
let carafe: Server;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

const api = (method: 'get' | 'post' | 'put' | 'delete', path: string, body?: object) =>
  request(carafe.app)[method](`/api${path}`).set('Host', '127.0.0.1').send(body);
const said = ({ body }: { body: unknown }) =>
  (body as { error?: { message: string } }).error?.message;

const rule = (name: string, ...steps: object[]) => ({
  ...{ name, label: name, number: 3 },
  steps: steps.map((step) => ({ take: 3, step })),
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
});
const SELLERS = { kind: 'best_sellers', days: 30, by: 'units' };

let count = 0;
const order = (email: string, ...skus: string[]) => ({
  ...{ id: `o${++count}`, shop: 's', email, kind: 'order_placed', number: `N${count}` },
  ...{ at: '2026-11-20T09:00:00Z', currency: 'EUR' },
  lines: skus.map((sku) => ({ sku, name: sku, price: 2, quantity: 1 })),
});
async function trade(): Promise<void> {
  const source = await api('post', '/sources', {
    ...{ shop: 's', name: 'Garden', kind: 'typed', target: 'catalog', formula_name: 'garden' },
  });
  const records = ['pot', 'feed', 'spade', 'bench'].map((sku) => ({
    ...{ sku, name: `The ${sku}`, price: 2, in_stock: sku !== 'bench' },
  }));
  await api('post', `/sources/${(source.body as { id: string }).id}/typed`, { records });
  const events = [
    order('ann@q.example', 'pot', 'feed', 'bench'),
    order('bob@q.example', 'pot', 'feed'),
    order('cid@q.example', 'pot'),
    order('dan@q.example', 'spade'),
  ];
  expect((await api('post', '/events', events)).status).toBe(200);
}
const picksFor = async (name: string, person: string) =>
  (await api('get', `/shops/s/picks/${name}/${person}`)).body as PicksOfPerson;

test('a rule picks for a person, with the reasons, and for somebody new', async () => {
  await trade();
  const together = { kind: 'bought_together', seed: 'latest_order' };
  expect((await api('post', '/shops/s/rules', rule('after', together, SELLERS))).status).toBe(201);
  const cid = await picksFor('after', 'cid@q.example');
  expect(cid.picks.map(({ sku, step }) => [sku, step])).toEqual([
    ['feed', 0],
    ['spade', 1],
  ]);
  expect(cid.picks[0]?.figure).toMatch(/^bought together with The pot by 2 people, 1\.3 × more/);
  expect(cid.passed).toContainEqual(expect.objectContaining({ sku: 'bench', why: 'out of stock' }));
  const nobody = await picksFor('after', 'new@q.example');
  expect(nobody.picks.map(({ sku }) => sku)).toEqual(['pot', 'feed', 'spade']);
});

test('what is bought meanwhile is known at once', async () => {
  await trade();
  await api('post', '/shops/s/rules', rule('best', SELLERS));
  expect((await picksFor('best', 'x@q.example')).picks[0]?.sku).toBe('pot');
  const more = Array.from({ length: 5 }, (_, i) => order(`p${i}@q.example`, 'spade'));
  await api('post', '/events', more);
  expect((await picksFor('best', 'x@q.example')).picks[0]?.sku).toBe('spade');
});

test('rules are kept by their name, changed, deleted, and refused in words', async () => {
  const made = await api('post', '/shops/s/rules', rule('best', SELLERS));
  const { id } = made.body as { id: string };
  expect(said(await api('post', '/shops/s/rules', rule('best', SELLERS)))).toMatch(
    /There is a rule “best” already/,
  );
  for (const wrong of [
    { ...rule('x', SELLERS), number: 0 },
    { ...rule('x', SELLERS), number: 1000 },
    { ...rule('x'), steps: [] },
    rule('x', { kind: 'nothing' }),
    rule('1 x', SELLERS),
  ])
    expect((await api('post', '/shops/s/rules', wrong)).status).toBe(400);
  await api('put', `/rules/${id}`, { ...rule('better', SELLERS), number: 1 });
  expect((await api('get', '/shops/s/picks/best/a@q.example')).status).toBe(404);
  expect(await picksFor('better', 'a@q.example')).toEqual({ picks: [], passed: [] });
  expect((await api('delete', `/rules/${id}`)).status).toBe(204);
  expect((await api('get', '/shops/s/rules')).body).toEqual({ rules: [] });
});

test('picks are in the records of people and in the shape, as products with their reason', async () => {
  await trade();
  await api('post', '/shops/s/rules', rule('best', SELLERS));
  const id = carafe.tables.people.idOf('s', 'dan@q.example') ?? 0;
  const answer = await api('get', `/shops/s/people?ids=${id}`);
  const { people, products } = answer.body as {
    people: { data: { picks: Record<string, object[]> } }[];
    products: { sku: string }[];
  };
  expect(people[0]?.data.picks).toEqual({
    best: [
      { sku: 'pot', reason: 'Much bought of late' },
      { sku: 'feed', reason: 'Much bought of late' },
    ],
  });
  // What is picked comes along, though the catalog may not.
  expect(products.map(({ sku }) => sku)).toEqual(expect.arrayContaining(['pot', 'feed', 'spade']));
  const shape = await api('get', '/shops/s/shape');
  expect(JSON.stringify(shape.body)).toContain('"picks"');
});
