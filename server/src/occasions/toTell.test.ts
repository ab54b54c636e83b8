import type { StoredOccasion, StoredTemplate } from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { blankTemplate, composer } from '@carafe/core/template';
import { asking, TEST_SHOP, testServer } from '../testing';

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

const EMAIL = 'maud@post.example';
let count = 0;
async function viewed(sku: string): Promise<void> {
  const { now } = (await api('get', '/clock')).body as { now: string };
  const told = { id: `e${++count}`, at: now, shop: 's', email: EMAIL, kind: 'viewed', sku };
  expect((await api('post', '/events', [told])).status).toBe(200);
  await carafe.runner.idle();
}
async function source(target: 'catalog' | 'feed', name: string): Promise<string> {
  const asked = { shop: 's', name, kind: 'typed', target, formula_name: name };
  return ((await api('post', '/sources', asked)).body as { id: string }).id;
}
const typed = async (of: string, ...records: object[]) =>
  expect((await api('post', `/sources/${of}/typed`, { records })).status).toBeLessThan(300);
const post = (guid: string) => ({
  ...{ guid, title: `Post ${guid}`, link: `https://s.example/${guid}` },
  published_at: '2026-11-24T08:00:00Z',
});

async function on(start: Occasion['start']): Promise<StoredOccasion> {
  const c = composer(carafe.newId);
  const made = blankTemplate(
    'News',
    's',
    [c.section('One', [c.text('There is news.')])],
    'post@s.example',
  );
  const template = (await api('post', '/templates', { template: made })).body as StoredTemplate;
  const { id, version } = template;
  await api('post', `/templates/${id}/publish`, { version, note: '' });
  const occasion: Occasion = {
    ...{ name: start.kind, start, priority: 5, whom: { guests: true } },
    steps: [{ id: 'm', kind: 'send', template: id, mail: 'service', mode: 'held', to: 'person' }],
  };
  const stored = (await api('post', '/shops/s/occasions', occasion)).body as StoredOccasion;
  const published = await api('post', `/occasions/${stored.id}/publish`, {
    version: stored.version,
  });
  expect(published.status).toBe(200);
  await carafe.runner.idle();
  return published.body as StoredOccasion;
}
const causes = () =>
  carafe.tables.outbox
    .list({ shop: 's' }, 50, 0)
    .map(({ cause }) => cause)
    .sort();

/** What happens meanwhile is kept, and the process is killed before the engine is told. */
async function killed(work: () => Promise<unknown>): Promise<void> {
  const deaf = [
    jest.spyOn(carafe.runner, 'heard').mockImplementation(() => undefined),
    jest
      .spyOn(carafe.runner as never, 'imported')
      .mockImplementation((() => Promise.resolve()) as never),
  ];
  await work();
  for (const one of deaf) one.mockRestore();
}
async function begun(): Promise<void> {
  await carafe.runner.begin();
  await carafe.runner.idle();
}

test('a look at a product that was kept and not told starts what it should, once', async () => {
  const { id } = await on({ kind: 'looked_at', after: { n: 1, unit: 'hours' } });
  await viewed('pot');
  await killed(() => viewed('bowl'));
  const inside = () => carafe.tables.states.insideOf(id, 10, 0).map(({ cause }) => cause);
  expect(inside()).toEqual(['looked pot 2026-11-24']);
  await begun();
  await begun();
  expect(inside().sort()).toEqual(['looked bowl 2026-11-24', 'looked pot 2026-11-24']);
  expect(carafe.tables.toTell.looks('s')).toEqual([]);
});

test('nothing is kept of looks where no occasion is on, nor told once none is', async () => {
  await viewed('pot');
  expect(carafe.tables.toTell.looks('s')).toEqual([]);
  const { id } = await on({ kind: 'looked_at', after: { n: 1, unit: 'hours' } });
  await killed(() => viewed('bowl'));
  expect(carafe.tables.toTell.looks('s')).toHaveLength(1);
  expect((await api('delete', `/occasions/${id}`)).status).toBeLessThan(300);
  await begun();
  expect(carafe.tables.toTell.looks('s')).toEqual([]);
});

test('lower prices that were kept and not told are told after the next start, of every import since', async () => {
  const garden = await source('catalog', 'garden');
  const all = (pot: number, bowl: number) =>
    typed(
      garden,
      { sku: 'pot', name: 'Pot', price: pot },
      { sku: 'bowl', name: 'Bowl', price: bowl },
    );
  await all(9, 9);
  await viewed('pot');
  await viewed('bowl');
  await on({ kind: 'product_changed', change: 'cheaper', among: 'either' });
  await killed(async () => {
    await all(8, 9);
    await all(8, 7);
  });
  expect(causes()).toEqual([]);
  await begun();
  await begun();
  expect(causes()).toEqual(['cheaper bowl 2026-11-24', 'cheaper pot 2026-11-24']);
});

test('new posts that were not told are told after the next start, but those that are gone again', async () => {
  const furrow = await source('feed', 'furrow');
  await typed(furrow, post('a'));
  await viewed('pot');
  await on({ kind: 'post_published', feed: 'furrow' });
  await killed(async () => {
    await typed(furrow, post('a'), post('b'));
    // Its title is another by the next import, and it is still new.
    await typed(furrow, post('a'), { ...post('b'), title: 'Mended' }, post('c'));
    await typed(furrow, post('d'));
    const last = carafe.tables.imports.lastTaken(furrow);
    expect((await api('post', `/imports/${last?.id ?? ''}/undo`)).status).toBe(200);
  });
  await begun();
  await begun();
  expect(causes()).toEqual(['post furrow b', 'post furrow c']);
  await typed(furrow, post('e'));
  await carafe.runner.idle();
  expect(causes()).toEqual(['post furrow b', 'post furrow c', 'post furrow e']);
});

test('what could not be told is not taken for told', async () => {
  const furrow = await source('feed', 'furrow');
  await typed(furrow, post('a'));
  await viewed('pot');
  await on({ kind: 'post_published', feed: 'furrow' });
  const full = jest
    .spyOn(carafe.runner, 'everyone')
    .mockImplementation(() => Promise.resolve(null));
  await typed(furrow, post('a'), post('b'));
  await carafe.runner.idle();
  full.mockRestore();
  expect(carafe.tables.toTell.sources().map(({ id }) => id)).toEqual([furrow]);
  await begun();
  expect(causes()).toEqual(['post furrow b']);
  expect(carafe.tables.toTell.sources()).toEqual([]);
});

test('where the mark cannot be written, as with a full disk, it is logged, and told after the next start', async () => {
  const furrow = await source('feed', 'furrow');
  await typed(furrow, post('a'));
  await viewed('pot');
  await on({ kind: 'post_published', feed: 'furrow' });
  const full = jest.spyOn(carafe.tables.toTell, 'toldSource').mockImplementation(() => {
    throw new Error('database or disk is full');
  });
  await typed(furrow, post('a'), post('b'));
  await carafe.runner.idle();
  expect(causes()).toEqual(['post furrow b']);
  full.mockRestore();
  await begun();
  expect(causes()).toEqual(['post furrow b']);
  expect(carafe.tables.toTell.sources()).toEqual([]);
});
