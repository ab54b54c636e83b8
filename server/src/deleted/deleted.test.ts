import type { DeletedItem } from '@carafe/contract';
import { EMPTY_NOTE } from '@carafe/core/library';
import { presets } from '@carafe/core/occasion';
import { blankTemplate } from '@carafe/core/template';
import request from 'supertest';
import { presetTemplates } from '../occasions/presetTemplates';
import { asking, said, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
const api = asking(() => carafe);
beforeEach(async () => {
  carafe = await testServer();
  await api('post', '/shops', TEST_SHOP);
});
afterEach(() => carafe.store.close());

const deleted = async () =>
  ((await api('get', '/deleted')).body as { deleted: DeletedItem[] }).deleted;
const restore = ({ kind, id }: Pick<DeletedItem, 'kind' | 'id'>) =>
  api('post', `/deleted/${kind}/${id}/restore`);
const RULE = {
  ...{ name: 'best', label: 'Best sellers', number: 3 },
  steps: [{ take: 3, step: { kind: 'best_sellers', days: 30, by: 'units' } }],
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
};
const FORMULA = {
  ...{ name: 'hello', formula: '"Hello"', label: 'A greeting' },
  ...{ description: '', group: '', use: 'value' },
};
const [OCCASION] = presets(presetTemplates([]));
const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
const idOf = async (path: string, body: object): Promise<string> => {
  const made = await api('post', path, body);
  expect([made.status, said(made)]).toEqual([201, undefined]);
  return (made.body as { id: string }).id;
};
const picture = async () => {
  const { body } = await request(carafe.app)
    .post('/api/pictures?name=Pots')
    .set({ host: '127.0.0.1', 'content-type': 'image/png' })
    .send(PIXEL);
  return (body as { id: string }).id;
};
/** Of each kind: how one is made, where it is listed, and where it is deleted. */
const KINDS: [
  DeletedItem['kind'],
  string,
  () => Promise<string>,
  string,
  (id: string) => string,
][] = [
  [
    ...(['template', 'A letter'] as const),
    () => idOf('/templates', { template: blankTemplate('A letter', 's', []) }),
    ...(['/templates', (id) => `/templates/${id}`] as [string, (id: string) => string]),
  ],
  [
    ...(['occasion', OCCASION?.name ?? ''] as const),
    () => idOf('/shops/s/occasions', OCCASION ?? {}),
    ...(['/shops/s/occasions', (id) => `/occasions/${id}`] as [string, (id: string) => string]),
  ],
  ['picture', 'Pots', picture, '/pictures', (id) => `/pictures/${id}`],
  [
    ...(['note', 'Keep dry'] as const),
    () => idOf('/shops/s/notes', { ...EMPTY_NOTE, title: 'Keep dry' }),
    ...(['/shops/s/notes', (id) => `/notes/${id}`] as [string, (id: string) => string]),
  ],
  [
    ...(['formula', 'A greeting'] as const),
    () => idOf('/shops/s/formulas', FORMULA),
    ...(['/shops/s/formulas', (id) => `/formulas/${id}`] as [string, (id: string) => string]),
  ],
  [
    ...(['rule', 'Best sellers'] as const),
    () => idOf('/shops/s/rules', RULE),
    ...(['/shops/s/rules', (id) => `/rules/${id}`] as [string, (id: string) => string]),
  ],
  [
    ...(['segment', 'Buyers'] as const),
    async () => {
      await api('post', '/shops/s/segments', { name: 'Buyers', formula: 'person.consent' });
      return 'Buyers';
    },
    ...(['/shops/s/segments', (id) => `/shops/s/segments/${id}`] as [
      string,
      (id: string) => string,
    ]),
  ],
];

test.each(KINDS)(
  'a %s that was deleted is restored as it was',
  async (kind, name, make, list, at) => {
    const id = await make();
    const before = (await api('get', list)).body as unknown;
    expect((await api('delete', at(id))).status).toBe(204);
    expect((await api('get', list)).body).not.toEqual(before);
    const [item, ...others] = await deleted();
    expect(others).toEqual([]);
    expect(item).toMatchObject({ kind, name, until: '2026-12-24T09:00:00.000Z' });
    expect((await restore(item as DeletedItem)).body).toEqual({ kind, name });
    expect((await api('get', list)).body).toEqual(before);
    expect(await deleted()).toEqual([]);
    const again = await restore(item as DeletedItem);
    expect([again.status, said(again)]).toEqual([404, expect.stringContaining('restored already')]);
  },
);

test('what was deleted more than thirty days ago is gone, and a picture with its file', async () => {
  const pictureId = await picture();
  const noteId = await idOf('/shops/s/notes', { ...EMPTY_NOTE, title: 'Keep dry' });
  await api('delete', `/pictures/${pictureId}`);
  const drawn = () => request(carafe.app).get(`/pictures/library/${pictureId}/10x10`);
  // Emails that went out show it meanwhile.
  expect((await drawn()).status).toBe(200);
  carafe.wait(24 * 29);
  await api('delete', `/notes/${noteId}`);
  expect((await deleted()).map(({ kind }) => kind)).toEqual(['note', 'picture']);
  carafe.wait(25);
  expect((await deleted()).map(({ kind }) => kind)).toEqual(['note']);
  await carafe.clock.tick();
  expect((await drawn()).status).toBe(404);
  expect((await deleted()).map(({ kind }) => kind)).toEqual(['note']);
});

test('what took its name meanwhile stays; the deleted one waits', async () => {
  const id = await idOf('/shops/s/formulas', FORMULA);
  await api('delete', `/formulas/${id}`);
  await idOf('/shops/s/formulas', { ...FORMULA, formula: '"Another"' });
  const [item] = await deleted();
  const refused = await restore(item as DeletedItem);
  expect([refused.status, said(refused)]).toEqual([
    409,
    expect.stringContaining('There is a formula “hello” already'),
  ]);
  expect(await deleted()).toEqual([item]);
});

test('an occasion comes back switched off', async () => {
  const id = await idOf('/shops/s/occasions', OCCASION ?? {});
  await carafe.store.write(() =>
    carafe.tables.occasions.switchOn(id, 1, {
      ...{ on: '2026-11-24T08:00:00Z', heeded: '2026-11-24T08:00:00Z' },
      watching: '2026-11-24T08:00:00Z',
    }),
  );
  await api('delete', `/occasions/${id}`);
  await restore({ kind: 'occasion', id });
  expect(carafe.tables.occasions.find(id)?.on_since).toBeNull();
  expect(carafe.tables.occasions.on('s')).toEqual([]);
});
