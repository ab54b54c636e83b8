import { sendingServer, stageOf, type TestServer } from '../testingOccasions';

let carafe: TestServer;
sendingServer((server) => {
  carafe = server;
});
const { api, event, agree, move, template, send, on, states } = stageOf(() => carafe);

const MAUD = 'maud@post.example';
const NORA = 'nora@post.example';

/** How many people of the shop a condition holds for. */
async function holdsFor(formula: string): Promise<number> {
  const { body } = await api('post', '/shops/s/audience', { formula });
  return (body as { holds: number }).holds;
}
async function enter(id: string, ...emails: string[]): Promise<void> {
  const people = emails.map((email) => carafe.tables.people.idOf('s', email));
  const name = `list ${emails.join(' ')}`;
  expect((await api('post', `/occasions/${id}/hand`, { people, name })).status).toBe(200);
  await carafe.runner.idle();
  await carafe.sender.kick();
}

test('segments ask for products looked at, and for emails received, opened and clicked', async () => {
  await agree(MAUD);
  await agree(NORA);
  await event('viewed', MAUD, { sku: 'trowel' });
  expect(await holdsFor('any(views, sku = "trowel" and viewed_at > add_days(now, -1))')).toBe(1);
  expect(await holdsFor('not any(views, sku = "trowel")')).toBe(1);
  expect(await holdsFor('count(emails) = 0')).toBe(2);

  const id = await on({
    name: 'News',
    start: { kind: 'by_hand' },
    steps: [send('a', await template('News'))],
  });
  await enter(id, NORA);
  expect(await states()).toEqual(['nora a sent']);
  await move(1);
  expect(await holdsFor('any(emails, occasion = "News" and not opened)')).toBe(1);
  const { id: sent } = carafe.store.db.prepare('SELECT id FROM outbox').get() as { id: string };
  carafe.store.db.prepare('UPDATE outbox SET opened_at = sent_at WHERE id = ?').run(sent);
  expect(await holdsFor('any(emails, opened and not clicked)')).toBe(1);
});

test('an occasion keeps its emails to those whose past fits, and asks again before they leave', async () => {
  await agree(MAUD);
  await agree(NORA);
  await event('viewed', MAUD, { sku: 'trowel' });
  await api('post', '/shops/s/segments', {
    ...{ name: 'Looked at trowels', formula: 'any(views, sku = "trowel")' },
  });
  const words = await template('Trowels');
  const id = await on({
    name: 'Trowels',
    start: { kind: 'by_hand' },
    whom: { guests: true, segment: 'Looked at trowels' },
    steps: [
      { id: 'g', kind: 'guard', when: 'count(emails) = 0', otherwise: 'stop' },
      send('a', words),
    ],
  });
  await enter(id, MAUD, NORA);
  expect(await states()).toEqual(['maud a sent']);
});
