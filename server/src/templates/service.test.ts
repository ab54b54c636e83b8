import { blankTemplate } from '@carafe/core/template';
import { TEST_SHOP, testServer } from '../testing';
import { TemplatesService } from './service';

const soon = () => new Promise((done) => setImmediate(() => setImmediate(done)));

test('previews are made one at a time, and none for who has left', async () => {
  const carafe = await testServer();
  const { tables, store } = carafe;
  tables.shops.insert(TEST_SHOP);
  const started: (() => void)[] = [];
  const jobs = { run: () => new Promise((end) => started.push(() => end({ subject: 'Made' }))) };
  let ids = 0;
  const service = new TemplatesService({
    ...tables,
    store,
    jobs: jobs as never,
    updates: { publish: () => undefined } as never,
    now: () => new Date('2026-11-24T09:00:00Z'),
    newId: () => `t${++ids}`,
  });
  const { id } = await service.create({ template: blankTemplate('T', 's', [], 'post@s.example') });
  let isThere = true;
  const stays = () => false;
  const asked = [service.preview(id, stays), service.preview(id, () => !isThere)];
  const last = service.preview(id, stays);
  await soon();
  expect(started).toHaveLength(1);
  isThere = false;
  started[0]?.();
  expect(await Promise.all(asked)).toEqual([{ subject: 'Made' }, null]);
  await soon();
  expect(started).toHaveLength(2);
  started[1]?.();
  expect(await last).toEqual({ subject: 'Made' });
  store.close();
});
