import type { AttentionItem, Health } from '@carafe/contract';
import { sendingServer, type TestServer, stageOf } from '../testingOccasions';
import { MOST_ATTEMPTS, pauseAfter } from './queue';

let carafe: TestServer;
sendingServer((made) => {
  carafe = made;
});
const { api, agree, add, move, template, send, on, states, outbox } = stageOf(() => carafe);
const attention = async () =>
  ((await api('get', '/attention')).body as { items: AttentionItem[] }).items;
const health = async () => (await api('get', '/health')).body as Health;

const cartLeft = async () => {
  const words = await template('You left this');
  await on({
    start: { kind: 'cart_left' },
    steps: [{ id: 'w', kind: 'wait', for: { n: 3, unit: 'hours' } }, send('a', words)],
  });
};

test('one person whose state is damaged is set aside alone, with the reason, and can be retried', async () => {
  await cartLeft();
  for (const name of ['maud', 'nora', 'olga']) {
    await agree(`${name}@post.example`);
    await add(`${name}@post.example`);
  }
  const { db } = carafe.store;
  const stateOf = db.prepare(`SELECT state FROM occasion_people WHERE email = 'nora@post.example'`);
  const { state } = stateOf.get() as { state: string };
  const put = db.prepare(`UPDATE occasion_people SET state = ? WHERE email = 'nora@post.example'`);
  put.run('{"runs": [{"occ');
  await move(5 * 60);
  expect((await states()).sort()).toEqual(['maud a sent', 'olga a sent']);
  const [item] = await attention();
  expect(item).toMatchObject({ kind: 'set_aside', about: 'nora@post.example', attempts: 1 });
  expect(item).toHaveProperty('reason', expect.stringMatching(/^Its stored data is damaged/));
  expect((await health()).jobs.set_aside).toBe(1);
  // It fails again as long as nobody mends it, and goes on once it is mended.
  const id = item?.kind === 'set_aside' ? item.id : 0;
  await api('post', `/jobs/${id}/retry`);
  expect(await attention()).toMatchObject([{ attempts: 2 }]);
  put.run(state);
  await api('post', `/jobs/${id}/retry`);
  expect(await attention()).toEqual([]);
  // Waits count from when it became possible.
  await move(4 * 60);
  expect((await states()).sort()).toEqual(['maud a sent', 'nora a sent', 'olga a sent']);
});

test('one email that is damaged is set aside alone, and is tried again with growing pauses', async () => {
  const words = await template('News');
  const id = await on({ start: { kind: 'by_hand' }, steps: [send('a', words, { mode: 'held' })] });
  for (const name of ['maud', 'nora', 'olga']) await agree(`${name}@post.example`);
  const people = ['maud', 'nora', 'olga'].map((name) =>
    carafe.tables.people.idOf('s', `${name}@post.example`),
  );
  await api('post', `/occasions/${id}/hand`, { people, name: 'x' });
  carafe.store.db
    .prepare(`UPDATE outbox SET beside = '{"occasion": [' WHERE email = 'nora@post.example'`)
    .run();
  await api('post', '/shops/s/outbox/changes', { to: 'approve', query: {} });
  await carafe.sender.kick();
  expect((await states()).sort()).toEqual(['maud a sent', 'nora a waiting', 'olga a sent']);
  const nora = async () => (await outbox('?email=nora@post.example'))[0];
  expect(await nora()).toMatchObject({
    attempts: 1,
    reason: expect.stringMatching(/^This email could not be filled\. Its stored data/) as string,
  });
  for (let tries = 1; tries < MOST_ATTEMPTS; tries++) {
    carafe.wait(pauseAfter(tries) / 3_600_000);
    await carafe.sender.kick();
  }
  expect(await nora()).toMatchObject({ state: 'held' });
});

test('pauses grow from a minute to six hours', () => {
  expect([1, 2, 3, 4, 5, 6].map((n) => pauseAfter(n) / 60_000)).toEqual([1, 4, 16, 64, 256, 360]);
});

test('what fails or takes too long holds up nothing else; the same job waits once', async () => {
  const done: string[] = [];
  const { queue } = carafe;
  queue.register('test', {
    ...{ name: 'A test', limit: 50 },
    run: async ({ key }) => {
      if (key === 'bad') throw new Error('no');
      if (key === 'slow') await new Promise(() => undefined);
      done.push(key);
    },
  });
  const runAt = Date.parse('2026-11-24T09:00:00Z');
  for (const key of ['bad', 'slow', 'good', 'good', 'later'])
    await queue.add({ kind: 'test', key, runAt: key === 'later' ? runAt + 60_000 : runAt });
  await queue.idle();
  expect(done.sort()).toEqual(['good', 'good']);
  const items = await attention();
  expect(items.map((item) => item.kind === 'set_aside' && `${item.about} ${item.reason}`)).toEqual(
    expect.arrayContaining([
      'bad It failed (no).',
      'slow It failed (A test took longer than 0 minutes).',
    ]),
  );
  for (const item of items) if (item.kind === 'set_aside') await api('delete', `/jobs/${item.id}`);
  expect(await attention()).toEqual([]);
  carafe.wait(1);
  await queue.tick();
  await queue.idle();
  expect(done).toContain('later');
});

test('health says what is due, since when, and whether anything is stuck', async () => {
  expect(await health()).toMatchObject({ ready: true, problems: [], emails: { due: 0 } });
  await cartLeft();
  await agree('maud@post.example');
  await add('maud@post.example');
  carafe.wait(6);
  expect(await health()).toMatchObject({
    ready: false,
    problems: [expect.stringMatching(/^People have been due since 2026-11-24T10:00/)],
  });
  expect(await attention()).toMatchObject([{ kind: 'problem' }]);
  await carafe.runner.tick();
  carafe.wait(4);
  await carafe.runner.tick();
  expect(await health()).toMatchObject({ ready: true });
});
