import type { StoredTemplate } from '@carafe/contract';
import { blankTemplate } from '@carafe/core/template';
import { asking, said, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
let id: string;
const api = asking(() => carafe);
const marks = async (of = id) =>
  ((await api('get', `/templates/${of}/looked`)).body as { marks: object }).marks;
const look = (variant: string, mark: string | null, of = id) =>
  api('put', `/templates/${of}/looked`, { variant, mark });

beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  const made = await api('post', '/templates', {
    template: blankTemplate('T', 's', [], 'post@s.example'),
  });
  ({ id } = made.body as StoredTemplate);
});
afterEach(() => carafe.store.close());

test('what was looked at is kept until it is said that it was not', async () => {
  expect(await marks()).toEqual({});
  await look('##$', 'a1');
  const answer = await look('#$$ "é"', 'b2');
  expect(answer.body).toEqual({ marks: { '##$': 'a1', '#$$ "é"': 'b2' } });
  await look('##$', 'c3');
  await look('#$$ "é"', null);
  await look('never', null);
  expect(await marks()).toEqual({ '##$': 'c3' });
});

test('each template has its own; those of one that is gone are refused', async () => {
  const other = await api('post', '/templates', {
    template: blankTemplate('U', 's', [], 'post@s.example'),
  });
  await look('#', 'a');
  expect(await marks((other.body as StoredTemplate).id)).toEqual({});
  const gone = 'There is no such template; perhaps it was deleted.';
  const never = await look('#', 'a', 'never');
  expect([never.status, said(never)]).toEqual([404, gone]);
  await api('delete', `/templates/${id}`);
  const deleted = await look('#', 'a');
  expect([deleted.status, said(deleted)]).toEqual([404, gone]);
  await api('post', `/templates/${id}/restore`);
  expect(await marks()).toEqual({ '#': 'a' });
});

test.each([[''], ['x'.repeat(20_001)]])(
  'a variant without a name, or of too long a one, is refused',
  async (variant) => {
    expect((await look(variant, 'a')).status).toBe(400);
    expect(await marks()).toEqual({});
  },
);

test('of very many the latest are kept', async () => {
  await carafe.store.write(() => {
    for (let i = 0; i < 1_100; i++)
      carafe.tables.looked.keep(id, `v${i}`, 'm', new Date(i * 1000).toISOString());
  });
  const kept = Object.keys(await marks());
  expect(kept).toHaveLength(1_000);
  expect([kept.includes('v99'), kept.includes('v100')]).toEqual([false, true]);
});

test('whoever has the template open is told', async () => {
  const told: unknown[] = [];
  const stop = carafe.updates.listen(({ update }) => told.push(update));
  await look('#', 'a');
  stop();
  expect(told).toContainEqual(expect.objectContaining({ type: 'looked', template: id }));
});
