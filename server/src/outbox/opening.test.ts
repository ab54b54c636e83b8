import request from 'supertest';
import { sendingServer, type TestServer, stageOf } from '../testingOccasions';

// What recipients and programs may reach, by which link, and what counts.

let carafe: TestServer;
sendingServer((made) => {
  carafe = made;
});
const { api, agree, event, mailbox, template, send, on, outbox } = stageOf(() => carafe);
const ask = (path: string, method: 'get' | 'head' = 'get') =>
  request(carafe.app)[method](path).set('Host', 'letters.example');

/** One email that was sent, with some links; gives its id and the paths of its links. */
async function sent(links: number) {
  const words = Array.from({ length: links }, (_, i) => `https://s.example/${i}`);
  const id = await template('News', words.join(' and '));
  const occasion = await on({ start: { kind: 'by_hand' }, steps: [send('a', id)] });
  await agree('maud@post.example');
  const people = [carafe.tables.people.idOf('s', 'maud@post.example')];
  await api('post', `/occasions/${occasion}/hand`, { people, name: 'x' });
  await carafe.sender.kick();
  const [mail] = await outbox();
  const { signer } = carafe.tables.people;
  const row = mail?.id ?? '';
  // Addresses in text are no links: the kept list says which are.
  const kept = carafe.tables.outbox.links(row) ?? [];
  return { id: row, go: kept.map((_, i) => `/go/${signer.make('go', row)}/${i}`), signer };
}
const item = async () => (await outbox())[0];

test('who only asks whether something is there has neither opened nor followed anything', async () => {
  const { id, go, signer } = await sent(0);
  const pixel = `/mail/open/${signer.make('open', id)}.gif`;
  expect((await ask(pixel, 'head')).status).toBe(200);
  for (const link of go) await ask(link, 'head');
  expect(await item()).toMatchObject({ opened_at: null, clicked_at: null });
  const opened = await ask(pixel);
  expect(opened.headers['cross-origin-resource-policy']).toBe('cross-origin');
  expect((await item())?.opened_at).not.toBeNull();
});

test('who follows all links within a second before any opening is a program; a person is counted', async () => {
  const { outbox: table } = carafe.tables;
  const { id } = await sent(0);
  jest.spyOn(table, 'links').mockReturnValue(['a', 'b', 'c']);
  carafe.store.db
    .prepare('UPDATE outbox_sources SET links = ? WHERE id = ?')
    .run(JSON.stringify(['a', 'b', 'c']), id);
  const at = Date.parse('2026-11-24T10:00:00Z');
  table.followed(id, 0, at);
  expect((await item())?.clicked_at).not.toBeNull();
  table.followed(id, 1, at + 300);
  table.followed(id, 2, at + 900);
  expect((await item())?.clicked_at).toBeNull();
  // A quarter of an hour later somebody follows one.
  table.followed(id, 1, at + 900_000);
  expect((await item())?.clicked_at).toBe(new Date(at + 900_000).toISOString());
});

test('who agreed to nothing gets a service email, and neither its opening nor its links are counted', async () => {
  const words = 'Your order is on its way. {{ shop.url }}';
  const id = await template('On its way', words);
  const steps = [send('a', id, { mail: 'service' })];
  const occasion = await on({ start: { kind: 'by_hand' }, steps });
  await agree('agreed@post.example');
  await event('consent_changed', 'not@post.example', { consent: false });
  const people = ['agreed', 'not'].map((name) =>
    carafe.tables.people.idOf('s', `${name}@post.example`),
  );
  await api('post', `/occasions/${occasion}/hand`, { people, name: 'x' });
  await carafe.sender.kick();
  const htmlTo = async (email: string) => {
    const taken = (await mailbox()).find(({ to }) => to[0] === email);
    const { body } = await api('get', `/mailbox/${taken?.id ?? ''}`);
    return (body as { html: string }).html;
  };
  expect(await htmlTo('agreed@post.example')).toMatch(/\/mail\/open\//);
  expect(await htmlTo('not@post.example')).toMatch(/On its way|on its way/);
  expect(await htmlTo('not@post.example')).not.toMatch(/\/mail\/open\/|\/go\//);
});

test('an answer that the preferences page does not know changes nothing, and says so', async () => {
  await agree('maud@post.example');
  const token = carafe.tables.people.tokens.make({ shop: 's', email: 'maud@post.example' });
  const { status, text } = await request(carafe.app)
    .post(`/mail/preferences/${token}`)
    .type('form')
    .send({ letters: 'maybe' });
  expect([status, text.includes('<h1>Es wurde nichts geändert</h1>')]).toEqual([400, true]);
  const id = carafe.tables.people.idOf('s', 'maud@post.example') ?? 0;
  const [{ data } = { data: undefined }] = carafe.tables.people.data('s', [id]);
  expect((data?.person as { consent?: unknown } | undefined)?.consent).toBe(true);
});

test('pictures answer by any host name and for other pages; nothing else does', async () => {
  const missing = await ask('/pictures/none.png');
  expect([missing.status, missing.headers['cross-origin-resource-policy']]).toEqual([
    404,
    'cross-origin',
  ]);
  const icon = await ask('/pictures/icons/round/22302a/web.png');
  expect(icon.status).toBe(200);
  expect(icon.headers['cache-control']).toMatch(/max-age=\d{5,}/);
  expect((await request(carafe.app).post('/pictures/none.png')).status).toBe(405);
  for (const path of ['/api/templates', '/api/health', '/', '/shop'])
    expect([path, (await ask(path)).status]).toEqual([path, 403]);
  expect((await ask('/pictures/../api/templates')).status).toBe(404);
});

test('an address that is none says 404, and one that is asked wrongly says 405 and how', async () => {
  expect((await api('get', '/nothing')).status).toBe(404);
  const wrong = await api('delete', '/templates');
  expect([wrong.status, wrong.headers['allow']]).toEqual([405, 'GET, POST']);
});
