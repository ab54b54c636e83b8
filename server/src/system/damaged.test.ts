import type { Health } from '@carafe/contract';
import { sendingServer, type TestServer, stageOf } from '../testingOccasions';

let carafe: TestServer;
sendingServer((made) => {
  carafe = made;
});
const { api, agree, add, move, template, send, on, states } = stageOf(() => carafe);
const problems = async () => ((await api('get', '/health')).body as Health).problems;
const damage = (table: string, where: string) =>
  carafe.store.db
    .prepare(`UPDATE ${table} SET document = substr(document, 1, 60) WHERE ${where}`)
    .run();

/** An occasion of carts that waits three hours. */
const cartLeft = async (words: string) =>
  on({
    start: { kind: 'cart_left' },
    steps: [
      { id: 'w', kind: 'wait', for: { n: 3, unit: 'hours' } },
      send(words, await template(words)),
    ],
  });

test('of two occasions one of which cannot be read, the other writes to everybody', async () => {
  const bad = await cartLeft('bad');
  await cartLeft('good');
  await agree('maud@post.example');
  expect(await problems()).toEqual([]);
  damage('occasions', `id = '${bad}'`);
  damage('occasion_versions', `occasion = '${bad}'`);
  await add('maud@post.example');
  await move(5 * 60);
  expect(await states()).toEqual(['maud good sent']);
  expect(await problems()).toEqual([
    expect.stringMatching(/^The occasion “.*” of the shop s cannot be read .* It is set aside/),
  ]);
  expect((await api('get', '/shops/s/occasions')).status).toBe(200);
  expect((await api('post', `/occasions/${bad}/off`, { waiting: 'stop' })).status).toBe(500);
});

test('lists name what they can, where an occasion and templates that they speak of cannot be read', async () => {
  const bad = await cartLeft('bad');
  await agree('maud@post.example');
  await add('maud@post.example');
  await move(5 * 60);
  expect(await states()).toEqual(['maud bad sent']);
  carafe.tables.crowds.begin(bad, 's', Date.parse('2026-11-24T09:00:00Z'));
  for (const table of ['occasions', 'occasion_versions', 'templates', 'published'])
    carafe.store.db.prepare(`UPDATE ${table} SET document = '{"name":"\\x"}'`).run();
  for (const path of [
    ...['/shops/s/outbox', '/shops/s/occasions', '/attention', '/health', '/templates'],
    '/shops/s/occasions/why?email=maud@post.example',
  ])
    expect([path, (await api('get', path)).status]).toEqual([path, 200]);
});

test('whoever is inside of an occasion that cannot be read waits until it is mended; others go on', async () => {
  const bad = await cartLeft('bad');
  await agree('maud@post.example');
  await add('maud@post.example');
  await move(60);
  const { db } = carafe.store;
  const whole = db.prepare('SELECT document FROM occasion_versions').pluck().get();
  damage('occasion_versions', `occasion = '${bad}'`);
  await cartLeft('good');
  await agree('nora@post.example');
  await add('nora@post.example');
  await move(5 * 60);
  expect(await states()).toEqual(['nora good sent']);
  db.prepare(`UPDATE occasion_versions SET document = ? WHERE occasion = ?`).run(whole, bad);
  await move(2 * 60);
  await carafe.queue.tick();
  await carafe.queue.idle();
  await move(4 * 60);
  expect(await states()).toContain('maud bad sent');
  expect(await problems()).toEqual([]);
});

test('a template, a rule, a note and a shop that cannot be read leave the others in their lists', async () => {
  const [one, two] = [await template('One'), await template('Two')];
  damage('templates', `id = '${one}'`);
  const listed = (await api('get', '/templates')).body as { templates: { id: string }[] };
  expect(listed.templates.map(({ id }) => id)).toEqual([two]);
  const asked = await api('get', `/templates/${one}`);
  expect(asked.status).toBe(500);
  expect(asked.body).toMatchObject({
    error: {
      message: expect.stringMatching(/^This template cannot be read from the database/) as string,
    },
  });
  carafe.store.db.exec(`
    INSERT INTO rules (id, shop, name, document, changed_at) VALUES ('r', 's', 'x', '{"name":"x"}', '');
    INSERT INTO library (id, shop, kind, document, changed_at) VALUES ('n', 's', 'note', '[', '');
    INSERT INTO shops (id, document) VALUES ('z', '{"name":"Zed"}');
  `);
  for (const path of ['/shops', '/shops/s/rules', '/shops/s/notes'])
    expect([path, (await api('get', path)).status]).toEqual([path, 200]);
  expect(await problems()).toEqual([
    expect.stringMatching(/^The shop “Zed” cannot be read/),
    expect.stringMatching(/^The template “One” of the shop s/),
    expect.stringMatching(/^The recommendation rule “x” of the shop s/),
    expect.stringMatching(/^The product note “n” of the shop s/),
  ]);
});

test('settings of which something was damaged say so', async () => {
  const { db } = carafe.store;
  db.exec(`INSERT OR REPLACE INTO mail_settings (one, document) VALUES (1, '{"test_only":"no"}');
    INSERT INTO shop_rules VALUES ('s', '{"quiet_minutes":"x"}');`);
  expect(await problems()).toEqual([
    expect.stringMatching(/^Some of the mail settings could not be read .*\(test_only\)/),
    expect.stringMatching(/^Some of the rules .* of the shop s .*\(quiet_minutes\)/),
  ]);
});
