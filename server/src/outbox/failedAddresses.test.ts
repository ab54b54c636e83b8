import request from 'supertest';
import { TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  const { outbox } = carafe.tables;
  outbox.refuseAddress('ann@q.example', '2026-11-23T09:00:00.000Z', '550 No such box.');
  outbox.refuseAddress('ben@q.example', '2026-11-24T09:00:00.000Z', '550 Closed.');
});
afterAll(() => carafe.store.close());

const get = async (query: object) =>
  (await request(carafe.app).get('/api/failed-addresses').query(query).set('Host', '127.0.0.1'))
    .body as { total: number; addresses: { email: string; reason: string }[] };
const allow = (email: string) =>
  request(carafe.app).post('/api/failed-addresses/allow').set('Host', '127.0.0.1').send({ email });

test('failed addresses are listed with what the mail server said, the latest first', async () => {
  const { total, addresses } = await get({});
  expect(total).toBe(2);
  expect(addresses.map(({ email }) => email)).toEqual(['ben@q.example', 'ann@q.example']);
  expect(addresses[0]?.reason).toBe('550 Closed.');
});

test('they are found by address and by reason, a page at a time', async () => {
  expect((await get({ q: 'ANN@' })).addresses.map(({ email }) => email)).toEqual(['ann@q.example']);
  expect((await get({ q: 'closed' })).total).toBe(1);
  const page = await get({ limit: 1, offset: 1 });
  expect([page.total, page.addresses[0]?.email]).toEqual([2, 'ann@q.example']);
});

test('one is allowed again, once', async () => {
  expect((await allow('Ben@q.example')).status).toBe(204);
  expect(carafe.tables.outbox.refusedAddress('ben@q.example')).toBeNull();
  expect((await get({})).total).toBe(1);
  const again = await allow('ben@q.example');
  expect(again.status).toBe(404);
  expect(JSON.stringify(again.body)).toContain('not among the failed addresses');
});
