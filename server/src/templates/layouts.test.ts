import request from 'supertest';
import { checkSites } from '@carafe/core/check';
import { templateSites } from '@carafe/core/site';
import { build } from '@carafe/core/build';
import { LAYOUTS, readTemplate } from '@carafe/core/template';
import { shapeOfShop } from '../shops/shapes';
import { TEST_SHOP, testServer } from '../testing';

// What is offered to begin with must not begin with a fault, whatever the shop has and is called.

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
  const { shops, sources } = carafe.tables;
  shops.insert({ ...TEST_SHOP, id: 'bare' });
  shops.insert({
    ...TEST_SHOP,
    id: 'odd',
    name: 'Tom & Co <b>',
    url: 'https://www.tom.example/gb',
  });
  shops.insert({ ...TEST_SHOP, id: 'none', url: '', address: 'At the mill' });
  for (const [shop, name] of [
    ['odd', 'garden'],
    ['odd', 'books'],
  ] as const)
    sources.insert(
      {
        ...{ id: `${shop}-${name}`, shop, name, kind: 'file', target: 'catalog' },
        ...{ formula_name: name, address: null, every_minutes: null, fresh_hours: 1 },
        next_fetch_at: null,
      },
      '2026-01-01',
    );
});
afterAll(() => carafe.store.close());

async function born(layout: string, shop: string) {
  const { status, body } = await request(carafe.app)
    .post('/api/templates')
    .set('Host', '127.0.0.1')
    .send({ layout, name: 'New', shop });
  expect(status).toBe(201);
  const read = readTemplate((body as { template: unknown }).template);
  if (!read.ok) throw new Error('A layout gives a sound template.');
  return read.template;
}

describe.each(['bare', 'odd', 'none'])('in the shop “%s”', (shop) => {
  test.each(LAYOUTS.map(({ id }) => id))('the layout “%s” has no findings', async (layout) => {
    const template = await born(layout, shop);
    const shape = shapeOfShop(carafe.tables, shop, new Date('2026-11-24'));
    const built = await build(template);
    const found = [...checkSites(templateSites(template), shape), ...built.findings];
    expect(found.map((f) => `${f.path}: ${f.message}`)).toEqual([]);
  });
});

test('the sender is an address of the shop’s own, or none', async () => {
  const senders = await Promise.all(
    ['bare', 'odd', 'none'].map(async (shop) => (await born('blank', shop)).envelope.from_email),
  );
  expect(senders).toEqual(['hello@s.example', 'hello@tom.example', '']);
});
