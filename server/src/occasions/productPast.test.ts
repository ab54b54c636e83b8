import type { ReplayAnswer, StoredOccasion, StoredTemplate } from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { blankTemplate, composer } from '@carafe/core/template';
import { asking, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
let source: string;
const api = asking(() => carafe);
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  const garden = { shop: 's', name: 'Garden', kind: 'typed', target: 'catalog' };
  const made = await api('post', '/sources', { ...garden, formula_name: 'garden' });
  source = (made.body as { id: string }).id;
});
afterEach(async () => {
  await carafe.runner.idle();
  carafe.store.close();
});

const EMAIL = 'maud@post.example';
let count = 0;
async function event(kind: string, more: object) {
  const { now } = (await api('get', '/clock')).body as { now: string };
  const told = { id: `e${++count}`, at: now, shop: 's', email: EMAIL, kind, ...more };
  expect((await api('post', '/events', [told])).status).toBe(200);
  await carafe.runner.idle();
}
const add = (sku: string) =>
  event('cart_added', { sku, name: `Thing ${sku}`, price: 10, quantity: 1, currency: 'EUR' });
const hours = async (n: number) =>
  expect((await api('post', '/clock', { minutes: n * 60 })).status).toBe(200);
const typed = async (...products: object[]) => {
  const records = products.map((one) => ({ name: 'Thing', ...one }));
  expect((await api('post', `/sources/${source}/typed`, { records })).status).toBeLessThan(300);
};
const changes = () =>
  carafe.tables.productChanges
    .since(source, '2000-01-01T00:00:00Z')
    .map(({ sku, before, after }) => [sku, before['price'], after['price']]);

async function occasion(more: Partial<Occasion>): Promise<Occasion> {
  const c = composer(carafe.newId);
  const made = blankTemplate(
    'Cheaper',
    's',
    [c.section('One', [c.text('{{ product.name }} is {{ product.price }} now.')])],
    'post@s.example',
  );
  const stored = (await api('post', '/templates', { template: made })).body as StoredTemplate;
  const { id, version } = stored;
  await api('post', `/templates/${id}/publish`, { version, note: '' });
  return {
    ...{ name: 'Cheaper', priority: 5, whom: { guests: true } },
    start: { kind: 'product_changed', change: 'cheaper', among: 'either' },
    steps: [{ id: 'm', kind: 'send', template: id, mail: 'service', mode: 'on', to: 'person' }],
    ...more,
  };
}
const replayed = async (one: Occasion) => {
  const body = { occasions: [{ id: 'o', occasion: one }], mode: 'replay', days: 7 };
  return ((await api('post', '/shops/s/occasions/replay', body)).body as ReplayAnswer).figures;
};

test('what an import changes of prices and stock is known afterwards, and no more once it is gone back from', async () => {
  await typed({ sku: 'pot', price: 5, stock: 9 }, { sku: 'bowl', price: 5, in_stock: false });
  expect(changes()).toEqual([]);
  await typed({ sku: 'pot', price: 4, stock: 8 }, { sku: 'bowl', price: 5, in_stock: true });
  // Of a count that another one follows nothing is kept.
  await typed({ sku: 'pot', price: 4, stock: 7 });
  await typed({ sku: 'pot', price: 3, stock: 7 });
  expect(changes()).toEqual([
    ['pot', 5, 4],
    ['bowl', 5, 5],
    ['pot', 4, 3],
  ]);
  const last = carafe.tables.imports.lastTaken(source);
  expect((await api('post', `/imports/${last?.id ?? ''}/undo`)).status).toBe(200);
  expect(changes()).toHaveLength(2);
});

test('a replay tells lower prices of the past to those whom they interested then, and opens the mail about them', async () => {
  await typed({ sku: 'pot', price: 5 }, { sku: 'bowl', price: 5 }, { sku: 'fork', price: 5 });
  await event('viewed', { sku: 'pot' });
  await hours(2);
  await typed({ sku: 'pot', price: 4 }, { sku: 'fork', price: 4 });
  await hours(2);
  await typed({ sku: 'pot', price: 2 }, { sku: 'bowl', price: 9 });
  const cheaper = await occasion({});
  const figures = await replayed(cheaper);
  // The pot became cheaper twice in a day, which is one cause; of the fork nobody knew, and the bowl is dearer.
  expect(figures).toMatchObject({ people: 1, entered: 1, mails: 1 });
  const [sample] = figures.samples;
  expect(sample?.about).toEqual({ sku: 'pot' });
  const [step] = cheaper.steps;
  const mail = await api('post', '/shops/s/occasions/mail', {
    ...{ template: step?.kind === 'send' ? step.template : '', person: sample?.person },
    ...{ at: new Date(sample?.at ?? 0).toISOString(), about: sample?.about },
  });
  expect((mail.body as { text: string }).text).toContain('Thing is 4 now.');
});

test('a guard of a replay asks what was in stock at that instant, not what is now', async () => {
  await typed({ sku: 'pot', price: 5, in_stock: true });
  await add('pot');
  await hours(30);
  const guard = {
    ...{ id: 'g', kind: 'guard' as const, otherwise: 'stop' as const },
    when: 'every(cart.lines, in_stock)',
  };
  const left = await occasion({ start: { kind: 'cart_left' } });
  const guarded = { ...left, steps: [guard, ...left.steps] };
  await typed({ sku: 'pot', price: 5, in_stock: false });
  expect(await replayed(guarded)).toMatchObject({ entered: 1, mails: 1 });
  // Of what is in no catalog nothing is in stock.
  await add('spade');
  await hours(30);
  expect(await replayed(guarded)).toMatchObject({ entered: 2, mails: 1 });
});

test('what an import makes cheaper or brings back is told at once to those whom it interests', async () => {
  await typed(
    { sku: 'pot', price: 5, stock: 0 },
    { sku: 'bowl', price: 5 },
    { sku: 'fork', price: 5 },
  );
  await event('viewed', { sku: 'pot' });
  await add('bowl');
  const switched = async (change: 'cheaper' | 'back') => {
    const made = await occasion({
      ...{ name: change, start: { kind: 'product_changed', change, among: 'either' } },
    });
    const { id, version } = (await api('post', '/shops/s/occasions', made)).body as StoredOccasion;
    expect((await api('post', `/occasions/${id}/publish`, { version })).status).toBe(200);
  };
  await switched('cheaper');
  await switched('back');
  await hours(1);
  await typed(
    { sku: 'pot', price: 5, stock: 3 },
    { sku: 'bowl', price: 4 },
    { sku: 'fork', price: 1 },
  );
  await carafe.runner.idle();
  const made = () =>
    carafe.tables.outbox
      .list({ shop: 's' }, 10, 0)
      .map(({ cause }) => cause)
      .sort();
  expect(made()).toEqual(['back pot 2026-11-24', 'cheaper bowl 2026-11-24']);
  // Brought in once more as it is, nothing is told again.
  await typed({ sku: 'pot', price: 5, stock: 2 }, { sku: 'bowl', price: 4 });
  await carafe.runner.idle();
  expect(made()).toHaveLength(2);
});
