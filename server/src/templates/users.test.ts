import type { StoredOccasion, StoredTemplate } from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { blankTemplate, composer, type Block } from '@carafe/core/template';
import sharp from 'sharp';
import request from 'supertest';
import { asking, said, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
const api = asking(() => carafe);
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(async () => {
  await carafe.runner.idle();
  carafe.store.close();
});

const idOf = ({ body }: { body: object }) => (body as { id: string }).id;
const mailOf = (...blocks: Block[]) =>
  blankTemplate('Mail', 's', [composer(carafe.newId).section('S', blocks)], 'post@s.example');
const c = composer(() => carafe.newId());

const formula = async (name: string) =>
  idOf(
    await api('post', '/shops/s/formulas', {
      ...{ name, formula: '1 < 2', use: 'condition', label: name, description: '', group: '' },
    }),
  );
const rule = async (name: string) =>
  idOf(
    await api('post', '/shops/s/rules', {
      ...{ name, label: name, number: 3 },
      steps: [{ take: 3, step: { kind: 'newest' } }],
      exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
    }),
  );
async function picture(): Promise<string> {
  const file = await sharp({ create: { width: 9, height: 9, channels: 3, background: '#f00' } })
    .png()
    .toBuffer();
  const sent = await request(carafe.app)
    .post('/api/pictures?name=pot.png')
    .set('Host', '127.0.0.1')
    .type('application/octet-stream')
    .send(file);
  return idOf(sent as { body: object });
}

/** What is said when something is deleted; nothing where it goes. */
const deleted = async (path: string) => said(await api('delete', path));

test('what is sent as it was published cannot be deleted, though the draft does without it', async () => {
  const [named, picks, pot] = [await formula('warm'), await rule('best'), await picture()];
  const src = `{{ shop.pictures }}/library/${pot}/9x9`;
  const full = mailOf(
    c.text('Hello', { when: 'own.warm' }),
    c.text('{{ join(picks.best.name, ", ") }}'),
    c.block('picture', { src, alt: 'A pot', width: 9 }),
  );
  const template = (await api('post', '/templates', { template: full })).body as StoredTemplate;
  const { id } = template;
  const paths = [`/formulas/${named}`, `/rules/${picks}`, `/pictures/${pot}`];
  const all = async () => Promise.all(paths.map(deleted));
  expect(await all()).toEqual([
    '“warm” is used in “Mail”, so it cannot be deleted. Remove it there first.',
    '“best” is used in “Mail”, so it cannot be deleted. Remove picks.best there first.',
    '“pot.png” is shown in “Mail”. Remove it there first.',
  ]);
  expect(
    (await api('post', `/templates/${id}/publish`, { version: template.version, note: '' })).status,
  ).toBe(201);
  const plain = { version: template.version, template: mailOf(c.text('Hello')) };
  const saved = (await api('put', `/templates/${id}`, plain)).body as { version: number };
  expect(await all()).toEqual([
    '“warm” is used in “Mail (published version)”, so it cannot be deleted. Remove it there first.',
    '“best” is used in “Mail (published version)”, so it cannot be deleted. Remove picks.best there first.',
    '“pot.png” is shown in “Mail (published version)”. Remove it there first.',
  ]);
  await api('post', `/templates/${id}/publish`, { version: saved.version, note: '' });
  expect(await all()).toEqual([undefined, undefined, undefined]);
});

test('nor what an occasion or a segment asks', async () => {
  const segment = { name: 'Warm', formula: 'own.warm and count(picks.best) > 0' };
  const [named, picks] = [await formula('warm'), await rule('best')];
  const stored = (await api('post', '/templates', { template: mailOf(c.text('Hello')) }))
    .body as StoredTemplate;
  const { id: template, version: first } = stored;
  await api('post', `/templates/${template}/publish`, { version: first, note: '' });
  expect((await api('post', '/shops/s/segments', segment)).status).toBe(201);
  expect(await deleted(`/formulas/${named}`)).toMatch(/^“warm” is used in “Warm”, so it cannot/);
  expect(await deleted(`/rules/${picks}`)).toMatch(/^“best” is used in “Warm”, so it cannot/);
  const occasion = (when: string, whom: object): Occasion => ({
    ...{ name: 'Tell', start: { kind: 'by_hand' }, priority: 5, whom: { guests: true, ...whom } },
    steps: [
      { id: 'g', kind: 'guard', when, otherwise: 'stop' },
      { id: 'm', kind: 'send', template, mail: 'service', mode: 'held', to: 'person' },
    ],
  });
  const asking_ = occasion('own.warm or picks.best is filled', { segment: 'Warm' });
  const made = (await api('post', '/shops/s/occasions', asking_)).body as StoredOccasion;
  const on = await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  expect([on.status, said(on)]).toEqual([200, undefined]);
  const { version } = on.body as StoredOccasion;
  const plain = { version, occasion: occasion('true', {}) };
  const changed = await api('put', `/occasions/${made.id}`, plain);
  expect(said(changed)).toBeUndefined();
  const still = /“Tell \(published version\)”, so it cannot be/;
  expect(await deleted('/shops/s/segments/Warm')).toMatch(still);
  expect(await deleted(`/formulas/${named}`)).toMatch(still);
  expect(await deleted(`/rules/${picks}`)).toMatch(still);
  const now = (changed.body as StoredOccasion).version;
  await api('post', `/occasions/${made.id}/publish`, { version: now });
  expect(await deleted('/shops/s/segments/Warm')).toBeUndefined();
  expect(await deleted(`/formulas/${named}`)).toBeUndefined();
  expect(await deleted(`/rules/${picks}`)).toBeUndefined();
});

test('a picture that is forgotten while it is drawn is not there, and no fault of the server', async () => {
  const pot = await picture();
  const get = () =>
    request(carafe.app).get(`/pictures/library/${pot}/700x700`).set('Host', '127.0.0.1');
  // Deleted, it stays for a month.
  await deleted(`/pictures/${pot}`);
  expect((await get()).status).toBe(200);
  carafe.wait(24 * 31);
  const large = `/pictures/library/${pot}/701x701`;
  const [drawn] = await Promise.all([
    request(carafe.app)
      .get(large)
      .set('Host', '127.0.0.1')
      .then(({ status }) => status),
    carafe.clock.tick(),
  ]);
  expect([200, 404]).toContain(drawn);
  expect((await get()).status).toBe(404);
});

test('a source tells which fields are read by what is worked on, and by what is sent', async () => {
  const asked = { shop: 's', name: 'Garden', kind: 'typed', target: 'catalog' };
  const source = idOf(await api('post', '/sources', { ...asked, formula_name: 'garden' }));
  const record = { sku: 'pot', name: 'Pot', price: 5, brand: 'Quillmoss' };
  await api('post', `/sources/${source}/typed`, { records: [record] });
  const reading = (...fields: string[]) =>
    mailOf(...fields.map((field) => c.text(`{{ first(catalog.garden).${field} }}`)));
  const used = async () =>
    ((await api('get', `/sources/${source}/profile`)).body as { used_by: object[] }).used_by;
  const { body } = await api('post', '/templates', { template: reading('name', 'brand') });
  const { id, version } = body as StoredTemplate;
  expect(await used()).toEqual([{ id, name: 'Mail', fields: ['brand', 'name'] }]);
  await api('post', `/templates/${id}/publish`, { version, note: '' });
  await api('put', `/templates/${id}`, { version, template: reading('name', 'price') });
  expect(await used()).toEqual([{ id, name: 'Mail', fields: ['brand', 'name', 'price'] }]);
  const now = (await api('get', `/templates/${id}`)).body as StoredTemplate;
  await api('put', `/templates/${id}`, { version: now.version, template: mailOf(c.text('Hi')) });
  expect(await used()).toEqual([
    { id, name: 'Mail (published version)', fields: ['brand', 'name'] },
  ]);
});

test('a template that is sent by what is on cannot be deleted; what is off stops nobody', async () => {
  const { body } = await api('post', '/templates', { template: mailOf(c.text('Hello')) });
  const { id, version } = body as StoredTemplate;
  await api('post', `/templates/${id}/publish`, { version, note: '' });
  const occasion: Occasion = {
    ...{ name: 'Tell', start: { kind: 'by_hand' }, priority: 5, whom: { guests: true } },
    steps: [{ id: 'm', kind: 'send', template: id, mail: 'service', mode: 'on', to: 'person' }],
  };
  const made = (await api('post', '/shops/s/occasions', occasion)).body as StoredOccasion;
  await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  expect(await deleted(`/templates/${id}`)).toBe(
    '“Mail” is sent by “Tell”, which is on. First switch that off, or choose another template there.',
  );
  await api('post', `/occasions/${made.id}/off`);
  expect(await deleted(`/templates/${id}`)).toBeUndefined();
});
