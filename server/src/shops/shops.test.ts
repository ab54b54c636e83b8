import request from 'supertest';
import type { SourceTarget } from '@carafe/contract';
import { asking, TEST_SHOP, testServer } from '../testing';

const HOST = '127.0.0.1';
let carafe: Awaited<ReturnType<typeof testServer>>;
const shop = TEST_SHOP;
const api = () => request(carafe.app);
const postShop = (body: object) => api().post('/api/shops').set('host', HOST).send(body);
async function shared(catalogs: unknown, as_of?: string) {
  const { body } = await api()
    .post('/api/shops/s/shared')
    .set('host', HOST)
    .send({ catalogs, as_of })
    .expect(200);
  return body as {
    shared: { catalog: Record<string, { sku: string }[]> };
    lengths: Record<string, number>;
  };
}
async function importText(name: string, target: SourceTarget, text: string): Promise<void> {
  const { imports, tables } = carafe;
  tables.sources.insert(
    {
      ...{ id: name, shop: 's', name, kind: 'file', target, formula_name: name },
      ...{ address: null, every_minutes: null, fresh_hours: 1, next_fetch_at: null },
    },
    '2026-01-01',
  );
  const one = await imports.receiveText(imports.sourceOf(name), 'f.csv', text);
  const { settings } = await imports.look(one.id);
  const { done } = await imports.check(one.id, { settings, mode: 'whole' });
  await imports.apply((await done).id);
}
function importCatalog(name: string, rows: number): Promise<void> {
  const lines = Array.from({ length: rows }, (_, i) => `S-${i},Lupin ${i},${i % 90}`);
  return importText(name, 'catalog', `sku,name,price\n${lines.join('\n')}`);
}

beforeAll(async () => {
  carafe = await testServer();
  await postShop(shop).expect(201);
  await importCatalog('small', 30);
  await importCatalog('big', 3_000);
});
afterAll(() => carafe.store.close());

describe('a shop', () => {
  it('is changed but for its id; recipients see what it says now', async () => {
    const put = (id: string, body: object) => asking(() => carafe)('put', `/shops/${id}`, body);
    await put('nowhere', { ...shop, id: 'nowhere' }).expect(404);
    const { body: refused } = await put('s', { ...shop, id: 'other' }).expect(400);
    expect((refused as { error: { message: string } }).error.message).toContain(
      'cannot be changed',
    );
    await put('s', { ...shop, currency: 'pounds' }).expect(400);
    await put('s', { ...shop, name: 'Seeds anew', pictures: 'https://p.example/x' }).expect(200);
    const { shared: seen } = await shared([]);
    expect((seen as unknown as { shop: object }).shop).toMatchObject({
      ...{ name: 'Seeds anew', pictures: 'https://p.example/x' },
    });
    await put('s', shop).expect(200);
  });

  it.each([
    ['a currency that there is none of', { currency: 'XXQ' }],
    ['a time zone that there is none of', { timezone: 'Europe/Nowhere' }],
    ['a language that is no tag', { locale: 'not a tag' }],
    ['an address that no browser opens', { url: 'javascript:alert(1)' }],
    ['an id that formulas cannot hold', { id: 'A b' }],
  ])('is refused with %s', async (_, wrong) => {
    const { body } = await postShop({ ...shop, id: 'other', ...wrong }).expect(400);
    expect((body as { error: { message: string } }).error.message).toMatch(
      /^This request cannot be read\..*Nothing was changed\.$/,
    );
    expect(carafe.tables.shops.find('other')).toBeNull();
  });

  it('is there once', async () => {
    await postShop(shop).expect(409);
  });
});

describe('what a shop’s recipients share', () => {
  const cheap = { list: 'catalog.big', as: 'p', where: 'p.price < 2', at_most: 3 };

  it('has no catalog that nobody reads', async () => {
    expect((await shared([])).shared.catalog).toEqual({});
  });

  it('has of a large catalog what loops show, in its order, with the lengths that were', async () => {
    const found = await shared([{ name: 'big', loops: [cheap] }]);
    expect(found.shared.catalog['big']?.map(({ sku }) => sku)).toEqual(['S-0', 'S-1', 'S-90']);
    expect(found.lengths).toEqual({
      'catalog.big': 3_000,
      'catalog.big where p.price < 2': 68,
    });
  });

  it('has a small catalog whole, and a large one that is asked for whole', async () => {
    const loop = { ...cheap, list: 'catalog.small' };
    const some = await shared([{ name: 'small', loops: [loop] }]);
    expect(some.shared.catalog['small']).toHaveLength(30);
    expect(some.lengths).toEqual({});
    const whole = await shared([{ name: 'big', loops: null }]);
    expect(whole.shared.catalog['big']).toHaveLength(3_000);
    expect(Object.keys((await shared(null)).shared.catalog).sort()).toEqual(['big', 'small']);
  });

  it('is asked of shops that there are', async () => {
    const answer = await api()
      .post('/api/shops/none/shared')
      .set('host', HOST)
      .send({ catalogs: null })
      .expect(404);
    expect(answer.text).toContain('There is no shop “none”.');
  });
});

describe('requests that nobody thought of', () => {
  it.each([
    ['a body that is no JSON', 'post', '/api/shops', '{"id":', 400, 'This is not JSON.'],
    ['a body that is a list', 'post', '/api/shops', '[]', 400, 'This request cannot be read.'],
    [
      'an address of nothing',
      'get',
      '/api/nothing',
      '',
      404,
      'There is nothing at this address of the API.',
    ],
    ['a path that does not decode', 'get', '/api/templates/%E0%A4%A', '', 400, 'cannot be read'],
    ['a page before the first', 'get', '/api/shops/s/recipients?offset=-1', '', 400, 'offset'],
    ['a page of everything', 'get', '/api/shops/s/recipients?limit=1e9', '', 400, 'limit'],
  ] as const)('%s', async (_, method, path, body, status, message) => {
    const asked = api()[method](path).set('host', HOST).set('content-type', 'application/json');
    const { text } = await (body === '' ? asked : asked.send(body)).expect(status);
    expect(JSON.parse(text)).toMatchObject({
      error: { message: expect.stringContaining(message) as string },
    });
  });
});

describe('health', () => {
  it('says that the server is ready, and how long ago its clock went on', async () => {
    await carafe.clock.tick();
    carafe.wait(1);
    const { body } = await api().get('/api/health').set('host', HOST).expect(200);
    expect(body).toMatchObject({
      ...{ ready: false, clock_age_seconds: 3_600 },
      problems: [expect.stringMatching(/^The clock has not ticked for 60 minutes/)],
    });
  });
});

describe('dates that a file wrote with offsets, or as bare days', () => {
  it('a code is given away until its last day is over, and the next one after that', async () => {
    await importText(
      'codes',
      'coupons',
      [
        'code,policy,expires_at',
        'GONE,today,2026-11-23',
        'LAST,today,2026-11-24',
        'PAST,hour,2026-11-24T10:30:00+02:00',
        'GOOD,hour,2026-11-24T08:30:00-02:00',
      ].join('\n'),
    );
    const { shared: seen } = await shared([]);
    expect((seen as unknown as { coupon: object }).coupon).toMatchObject({
      today: { code: 'LAST' },
      hour: { code: 'GOOD' },
    });
    const then = await shared([], '2026-11-25T09:00:00+01:00');
    expect((then as unknown as { shared: { coupon: object } }).shared.coupon).toEqual({});
  });

  it('posts stand by when they came out', async () => {
    const at = ['2026-11-20T23:30:00-05:00', '2026-11-21T04:00:00Z', '2026-11-21T06:15:00+02:00'];
    await importText(
      'news',
      'feed',
      `guid,title,published_at\n${at.map((one, i) => `${i},Post ${i},${one}`).join('\n')}`,
    );
    const { shared: seen } = await shared([]);
    const { posts } = (seen as unknown as { feeds: { news: { posts: { guid: string }[] } } }).feeds
      .news;
    expect(posts.map(({ guid }) => guid)).toEqual(['0', '2', '1']);
  });
});
