import { said, TEST_SHOP, testServer } from '../testing';
import { stageOf } from '../testingOccasions';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(async () => {
  await carafe.runner.idle();
  await carafe.sender.stop();
  await carafe.mailServer.stop();
  carafe.store.close();
});
const { api, agree, add, order, template, send, on, states, outbox, mailbox } = stageOf(
  () => carafe,
);
const MAUD = 'maud@post.example';

test('what was set aside of them goes too; that their address was refused is kept, and said', async () => {
  await agree(MAUD);
  const { queuedJobs, outbox: mails } = carafe.tables;
  const payload = { email: MAUD, id: 1 };
  await carafe.store.write(() => {
    const job = { kind: 'person', key: `s ${MAUD}`, shop: 's', payload, runAt: 0 };
    queuedJobs.setAside(job, 'It failed.', 0);
    mails.refuseAddress(MAUD, '2026-11-24T09:00:00Z', 'no');
  });
  const { body } = await api('post', '/shops/s/people/erase', { email: MAUD });
  expect((body as { kept: string[] }).kept).toContain(
    'That the mail server refused this address, so that no shop writes to it again.',
  );
  expect((await api('get', '/attention')).body).toEqual({ items: [] });
  expect(mails.refusedAddress(MAUD)).toBe('no');
});

test('whoever is erased gets nothing more, and nothing of them is stored but that emails were created', async () => {
  const words = await template('News');
  await on({
    ...{ start: { kind: 'order_placed', which: 'any' } },
    steps: [send('a', words, { mail: 'service' })],
  });
  for (const email of [MAUD, 'nora@post.example']) {
    await agree(email);
    await add(email);
    await order(email, email === MAUD ? 'N1' : 'N2');
  }
  await carafe.sender.kick();
  expect(await states()).toEqual(['maud a ready', 'nora a ready']);
  const { status, body } = await api('post', '/shops/s/people/erase', {
    email: ' Maud@post.example ',
  });
  expect([status, (body as { deleted: string[] }).deleted.length]).toEqual([200, 3]);
  await carafe.mailServer.start(0);
  carafe.sender.afresh();
  await carafe.sender.kick();
  expect(await states()).toEqual(['erased a stopped', 'nora a sent']);
  expect((await mailbox()).flatMap(({ to }) => to)).toEqual(['nora@post.example']);
  const { db } = carafe.store;
  const tables = db
    .prepare(`SELECT name FROM sqlite_master WHERE type = 'table'`)
    .pluck()
    .all() as string[];
  for (const table of tables)
    for (const row of db.prepare(`SELECT * FROM ${table}`).all() as Record<string, unknown>[])
      expect([table, JSON.stringify(row).includes('maud@')]).toEqual([table, false]);
  const again = await api('post', '/shops/s/people/erase', { email: MAUD });
  expect([again.status, said(again)]).toEqual([404, `Nobody here has the address “${MAUD}”.`]);
  // Whoever comes back is somebody new.
  await agree(MAUD);
  expect((await outbox()).length).toBe(2);
});
