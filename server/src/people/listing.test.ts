import request from 'supertest';
import type { RecipientList } from '@carafe/contract';
import { NEW_SHOPPER } from '@carafe/core/record';
import { TEST_SHOP, testServer } from '../testing';
import { audienceOf } from './audience';
import { rankPeople } from './rank';

let carafe: Awaited<ReturnType<typeof testServer>>;
const LINE = { sku: 'P', name: 'P', price: 1, quantity: 1, total: 1, properties: [] };
const AT = '2026-01-01T00:00:00Z';
const cart = (lines: number) => ({
  ...{ id: 'c', started_at: AT, updated_at: AT, currency: 'EUR' },
  lines: Array.from({ length: lines }, () => LINE),
});
const keep = (email: string, record: object, lines = 0) => {
  const shopper = { ...NEW_SHOPPER, ...(lines > 0 && { cart: cart(lines) }) };
  return carafe.tables.people.keep('s', email, { email, ...record }, shopper);
};
beforeAll(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  keep('ann@q.example', { first_name: 'Ann', locale: 'de-AT', country: 'AT', consent: true }, 3);
  keep('ben@q.example', { first_name: 'Ben', locale: 'de-DE', country: 'DE', consent: false }, 1);
  keep('nn@q.example', { first_name: ' ', locale: 'DE', country: 'de' });
  keep('eve@q.example', { last_name: 'Deane', locale: 'den', consent: true });
});
afterAll(() => carafe.store.close());

async function found(query: object): Promise<string[]> {
  const { status, body } = await request(carafe.app)
    .get('/api/shops/s/recipients')
    .query(query)
    .set('Host', '127.0.0.1');
  if (status !== 200) return [`${status}`];
  const { total, recipients } = body as RecipientList;
  expect(total).toBe(recipients.length);
  return recipients.map(({ email }) => email.split('@')[0] ?? '');
}

test.each([
  [{}, ['ann', 'ben', 'nn', 'eve']],
  [{ language: 'de' }, ['ann', 'ben', 'nn']],
  [{ language: 'de-at' }, ['ann']],
  [{ country: 'DE' }, ['ben', 'nn']],
  [{ name: 'none' }, ['nn']],
  [{ lines: 2 }, ['ann']],
  [{ orders: 'some' }, []],
  [{ orders: 'none', having: 'cart' }, ['ann', 'ben']],
  [{ consent: 'yes' }, ['ann', 'eve']],
  [{ consent: 'no', language: 'de' }, ['ben', 'nn']],
  [{ q: 'dean' }, ['eve']],
  [{ lines: 'many' }, ['400']],
  [{ consent: 'perhaps' }, ['400']],
])('recipients by %j', async (query, names) => {
  expect(await found(query)).toEqual(names);
});

test('the languages and countries there are, the most frequent first', async () => {
  const { body } = await request(carafe.app)
    .get('/api/shops/s/recipients/facets')
    .set('Host', '127.0.0.1');
  expect(body).toMatchObject({
    languages: [{ value: 'DE', people: 1 }, {}, {}, {}],
    countries: [{ value: 'AT' }, { value: 'DE' }, { value: 'de' }],
  });
});

const ask = (formula: string) =>
  request(carafe.app).post('/api/shops/s/audience').set('Host', '127.0.0.1').send({ formula });

describe('the audience of a condition', () => {
  test('how many it holds for, with one of each kind', async () => {
    const { body } = await ask('person.consent and cart is filled');
    expect(body).toMatchObject({ of: 4, holds: 1, yes: { name: 'Ann' }, no: { name: 'Ben' } });
    expect((await ask('true')).body).toMatchObject({ holds: 4, no: null });
    expect((await ask('count(cart.lines) >= 3')).body).toMatchObject({ holds: 1 });
  });
  test('what takes too long is given up, and does not count the half of them', () => {
    const task = {
      shop: 's',
      formula: 'any(cart.lines, price > 0 and count(record.cart.lines) > 1)',
      now: '2026-11-25T09:00:00Z',
    };
    expect(audienceOf(carafe.tables, task)).toMatchObject({ of: 4, holds: 1 });
    expect(audienceOf(carafe.tables, task, { mostSteps: 1 })).toBeNull();
  });
  test('a formula that cannot be read, and a shop that is not there, are told', async () => {
    const broken = await ask('cart.total >=');
    expect(broken.status).toBe(422);
    expect(JSON.stringify(broken.body)).toContain('This formula cannot be read:');
    const { status } = await request(carafe.app)
      .post('/api/shops/nowhere/audience')
      .set('Host', '127.0.0.1')
      .send({ formula: 'true' });
    expect(status).toBe(404);
  });
});

test('without words and filters as many are counted as with one that fits everybody', async () => {
  const count = async (query: object) => {
    const { body } = await request(carafe.app)
      .get('/api/shops/s/recipients')
      .query(query)
      .set('Host', '127.0.0.1');
    return (body as RecipientList).total;
  };
  for (const [having, people] of [
    ['all', 4],
    ['cart', 2],
    ['order', 0],
  ] as const) {
    expect(await count({ having })).toBe(people);
    // Every address has one.
    expect(await count({ having, search: '@' })).toBe(people);
    expect(await count({ having, search: '@', limit: 1 })).toBe(people);
  }
});

test('somebody for whom it takes too long is told apart, and is not one for whom it does not hold', async () => {
  keep('long@q.example', {}, 900);
  const { body } = await ask(
    'count(cart.lines where (count(record.cart.lines where (price > 0)) > 1)) > 2',
  );
  expect(body).toMatchObject({ of: 5, holds: 1, unknown: 1, yes: { name: 'Ann' } });
  expect((await ask('count(cart.lines) > 1')).body).not.toHaveProperty('unknown');
});

describe('what a rank is made of', () => {
  const order = (number: number, at: string, total: number) => ({
    ...{ number: `${number}`, placed_at: at, status: 'Paid', currency: 'EUR', lines: [LINE] },
    ...{ subtotal: total, total },
  });
  const standing = async (email: string) =>
    (
      await request(carafe.app)
        .get('/api/shops/s/person/rank')
        .query({ email })
        .set('Host', '127.0.0.1')
    ).body as unknown;

  test('each of the three is a fifth of all who ordered, and the mean is the rank', async () => {
    const { people } = carafe.tables;
    for (let i = 1; i <= 5; i++) {
      const orders = Array.from({ length: i }, (_, k) =>
        order(k, `2026-0${i}-0${k + 1}T09:00:00.000Z`, 6 - i),
      );
      const email = `buyer${i}@q.example`;
      people.keep('s', email, { email }, { ...NEW_SHOPPER, orders });
    }
    await rankPeople(carafe.store, people, 's');
    const [best] = people.data('s', [people.idOf('s', 'buyer5@q.example') ?? 0]);
    expect(await standing('Buyer5@q.example')).toEqual({
      standing: {
        ...{ rank: best?.data.rank, recency: 5, frequency: 5, spend: 1, orders: 5 },
        ...{ spent: 5, buyers: 5, last_order_at: '2026-05-05T09:00:00.000Z' },
      },
    });
    expect(best?.data.rank).toBe(Math.round((5 + 5 + 1) / 3));
  });

  test('who never ordered has none', async () => {
    expect(await standing('ann@q.example')).toEqual({ standing: null });
    expect(await standing('unknown@q.example')).toEqual({ standing: null });
  });
});
