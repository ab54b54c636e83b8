import type { Published, PublishedVersion, StoredTemplate } from '@carafe/contract';
import { blankTemplate, composer, type Template } from '@carafe/core/template';
import { asking, said, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

const api = asking(() => carafe);

const letter = (words: string): Template => {
  const c = composer(carafe.newId);
  return blankTemplate('Letter', 's', [c.section('One', [c.text(words)])], 'post@s.example');
};
const made = async (words = 'Hello') =>
  (await api('post', '/templates', { template: letter(words) })).body as StoredTemplate;
const saved = async ({ id, version }: StoredTemplate, words: string) =>
  (await api('put', `/templates/${id}`, { version, template: letter(words) }))
    .body as StoredTemplate;
const publish = (id: string, version: number, note = '') =>
  api('post', `/templates/${id}/publish`, { version, note });
const versions = async (id: string) =>
  ((await api('get', `/templates/${id}/published`)).body as { versions: Published[] }).versions;
const words = async (id: string, number: number) =>
  JSON.stringify(
    ((await api('get', `/templates/${id}/published/${number}`)).body as PublishedVersion).template,
  );

test('what is published stays as it was, whatever becomes of the draft', async () => {
  const first = await made('As published');
  expect(await versions(first.id)).toEqual([]);
  expect((await publish(first.id, first.version, ' The first ')).body).toEqual({
    ...{ number: 1, at: '2026-11-24T09:00:00.000Z', note: 'The first' },
  });
  const second = await saved(first, 'As it is now');
  expect(await words(first.id, 1)).toContain('As published');
  await publish(second.id, second.version);
  expect((await versions(first.id)).map(({ number }) => number)).toEqual([2, 1]);
  expect(await words(first.id, 1)).toContain('As published');
  expect(await words(first.id, 2)).toContain('As it is now');
});

test('a draft that was changed meanwhile is not published, nor one that is not there', async () => {
  const first = await made();
  await saved(first, 'Newer');
  const stale = await publish(first.id, first.version);
  expect([stale.status, said(stale)]).toEqual([
    409,
    'The template was changed in the meantime. Check it again, then publish.',
  ]);
  expect((await publish('nowhere', 1)).status).toBe(404);
  expect((await api('get', `/templates/${first.id}/published/1`)).status).toBe(404);
  expect((await api('get', `/templates/${first.id}/published/x`)).status).toBe(404);
  expect(await versions(first.id)).toEqual([]);
});

test('a formula that cannot be read is not published, and is told', async () => {
  const template = letter('Hello');
  const envelope = {
    ...template.envelope,
    ...{ subject: 'Hello {{ person. }}', preview_text: '{{ 1 + }}' },
  };
  const broken = (await api('post', '/templates', { template: { ...template, envelope } }))
    .body as StoredTemplate;
  const refused = await publish(broken.id, broken.version);
  expect(refused.status).toBe(422);
  expect(said(refused)).toMatch(/^This cannot be published yet\. .* And 1 more\.$/);
  expect(await versions(broken.id)).toEqual([]);
});

test('a note of more than 500 letters is refused', async () => {
  const { id, version } = await made();
  const refused = await publish(id, version, 'x'.repeat(501));
  expect([refused.status, said(refused)]).toEqual([
    400,
    expect.stringContaining('A note has at most 500 letters.'),
  ]);
});
