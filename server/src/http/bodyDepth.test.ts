import { TEST_SHOP, testServer, asking, said } from '../testing';
import { MOST_NESTED, refuseDeep } from './bodyDepth';

const nested = (depth: number) => '['.repeat(depth) + ']'.repeat(depth);
const reads = (text: string) => () => refuseDeep(Buffer.from(text));

test('JSON may be nested so deep and not deeper; brackets in texts are none', () => {
  expect(reads(nested(MOST_NESTED))).not.toThrow();
  expect(reads(nested(MOST_NESTED + 1))).toThrow(/nested more than 100 levels deep/);
  expect(reads(`["${'['.repeat(500)}", "\\"${'{'.repeat(500)}"]`)).not.toThrow();
  expect(reads('[1],'.repeat(500))).not.toThrow();
});

test('a request that is nested too deep is refused in a sentence, and harms no list', async () => {
  const carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  const api = asking(() => carafe);
  const deep = JSON.parse(nested(4_090)) as object;
  const refused = await api('post', '/events', [
    {
      id: 'x',
      at: '2026-11-24T08:00:00Z',
      shop: 's',
      kind: 'viewed',
      sku: 'A',
      email: 'a@b.example',
      fields: { deep },
    },
  ]);
  expect([refused.status, said(refused)]).toEqual([
    400,
    'This JSON is nested more than 100 levels deep, which is more than Carafe accepts. Nothing was changed.',
  ]);
  expect((await api('get', '/shops/s/recipients')).status).toBe(200);
  carafe.store.close();
});
