import type { ReplayAnswer, StoredTemplate } from '@carafe/contract';
import type { Occasion, Step } from '@carafe/core/occasion';
import { blankTemplate, composer } from '@carafe/core/template';
import { asking, said, TEST_SHOP, testServer } from '../testing';

// What a shop knew of people in the past, whom it ranked how, and what its rules would have picked then.

let carafe: Awaited<ReturnType<typeof testServer>>;
const sources: Record<string, string> = {};
const api = asking(() => carafe);
async function source(name: string, target: string, more: object = {}) {
  const made = await api('post', '/sources', { shop: 's', name, kind: 'typed', target, ...more });
  expect([made.status, said(made)]).toEqual([201, undefined]);
  sources[target] = (made.body as { id: string }).id;
}
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  await source('People', 'people', { formula_name: 'people' });
  await source('Garden', 'catalog', { formula_name: 'garden' });
});
afterEach(async () => {
  await carafe.runner.idle();
  carafe.store.close();
});

const MAUD = 'maud@post.example';
const typed = async (target: string, ...records: object[]) => {
  const answer = await api('post', `/sources/${sources[target] ?? ''}/typed`, { records });
  expect([answer.status, said(answer)]).toEqual([200, undefined]);
};
const clock = async () => ((await api('get', '/clock')).body as { now: string }).now;
const hours = async (n: number) =>
  expect((await api('post', '/clock', { minutes: n * 60 })).status).toBe(200);
let count = 0;
async function ordered(email: string, ...skus: string[]) {
  const event = {
    ...{ id: `e${++count}`, at: await clock(), shop: 's', email, kind: 'order_placed' },
    ...{ number: `N${count}`, currency: 'EUR' },
    lines: skus.map((sku) => ({ sku, name: `The ${sku}`, price: 10, quantity: 1 })),
  };
  expect((await api('post', '/events', [event])).status).toBe(200);
  await carafe.runner.idle();
}
async function template(text: string): Promise<string> {
  const c = composer(carafe.newId);
  const made = blankTemplate('Thanks', 's', [c.section('One', [c.text(text)])], 'post@s.example');
  const { id, version } = (await api('post', '/templates', { template: made }))
    .body as StoredTemplate;
  await api('post', `/templates/${id}/publish`, { version, note: '' });
  return id;
}
const thanks = (id: string, ...guards: string[]): Occasion => ({
  ...{
    name: 'Thanks',
    priority: 5,
    whom: { guests: true },
    start: { kind: 'order_placed', which: 'any' },
  },
  steps: [
    ...guards.map((when, i): Step => ({ id: `g${i}`, kind: 'guard', when, otherwise: 'stop' })),
    { id: 'm', kind: 'send', template: id, mail: 'service', mode: 'on', to: 'person' },
  ],
});
async function replayed(occasion: Occasion) {
  const body = { occasions: [{ id: 'o', occasion }], mode: 'replay', days: 30 };
  const answer = await api('post', '/shops/s/occasions/replay', body);
  expect([answer.status, said(answer)]).toEqual([200, undefined]);
  return (answer.body as ReplayAnswer).figures;
}
const opened = async (id: string, person: number, at: string): Promise<string> => {
  const asked = { template: id, person, at, about: {} };
  const mail = await api('post', '/shops/s/occasions/mail', asked);
  expect([mail.status, said(mail)]).toEqual([200, undefined]);
  return (mail.body as { text: string }).text;
};
const idOf = (email: string) => carafe.tables.people.idOf('s', email) ?? 0;

test('guards ask, and mails show, the fields that people were known for then', async () => {
  await typed('people', { email: MAUD, city: 'Ghent' });
  await ordered(MAUD, 'pot');
  const first = await clock();
  await hours(24);
  await typed('people', { email: MAUD, city: 'Bruges', member_no: 7 });
  await ordered(MAUD, 'pot');
  const second = await clock();
  await hours(24);
  await typed('people', { email: MAUD, city: 'Antwerp' });
  const id = await template('{{ person.city }}, {{ person.member_no otherwise "no number" }}.');
  expect(await replayed(thanks(id, 'person.city = "Ghent"'))).toMatchObject({
    ...{ entered: 2, mails: 1 },
  });
  expect(await opened(id, idOf(MAUD), first)).toContain('Ghent, no number.');
  expect(await opened(id, idOf(MAUD), second)).toContain('Bruges, 7.');
  expect(await opened(id, idOf(MAUD), await clock())).toContain('Antwerp, 7.');
  // Going back from a file is a change like every other.
  const last = carafe.tables.imports.lastTaken(sources['people'] ?? '');
  await hours(1);
  const before = await clock();
  await hours(1);
  expect((await api('post', `/imports/${last?.id ?? ''}/undo`)).status).toBe(200);
  expect(await opened(id, idOf(MAUD), before)).toContain('Antwerp, 7.');
  expect(await opened(id, idOf(MAUD), await clock())).toContain('Bruges, 7.');
});

test('before somebody did anything, nothing of what they did is in their mail', async () => {
  await typed('people', { email: MAUD, city: 'Ghent' });
  const before = await clock();
  await hours(24);
  await ordered(MAUD, 'pot');
  const id = await template('Order {{ order.number otherwise "none yet" }}.');
  expect(await opened(id, idOf(MAUD), before)).toContain('Order none yet.');
  expect(await opened(id, idOf(MAUD), await clock())).toContain('Order N');
});

test('what was known goes with the person, and when it is old', async () => {
  await typed('people', { email: MAUD, city: 'Ghent' });
  await typed('people', { email: MAUD, city: 'Bruges' });
  const { peopleChanges } = carafe.tables;
  const person = idOf(MAUD);
  expect(peopleChanges.since([person], '2000').get(person)).toHaveLength(1);
  expect(peopleChanges.old('2000')).toEqual([]);
  for (let years = 0; years < 2; years++) await hours(24 * 201);
  await typed('people', { email: MAUD, city: 'Antwerp' });
  expect(peopleChanges.since([person], '2000').get(person)).toEqual([
    { at: Date.parse(await clock()), before: { city: 'Bruges' } },
  ]);
  expect((await api('delete', `/sources/${sources['people'] ?? ''}`)).status).toBe(204);
  expect(carafe.tables.people.idOf('s', MAUD)).toBeNull();
  expect(peopleChanges.since([person], '2000').size).toBe(0);
});

test('ranks are those of then', async () => {
  for (let i = 0; i < 4; i++) await ordered(`p${i}@q.example`, 'pot');
  await hours(24);
  await ordered(MAUD, 'pot', 'pot', 'pot');
  const first = await clock();
  await hours(24);
  for (let n = 0; n < 2; n++)
    for (let i = 0; i < 4; i++) await ordered(`p${i}@q.example`, 'pot', 'pot');
  await hours(24);
  await ordered(MAUD, 'pot');
  const id = await template('Rank {{ person.rank }}.');
  const [then, now] = [
    await opened(id, idOf(MAUD), first),
    await opened(id, idOf(MAUD), await clock()),
  ];
  expect(then).toContain('Rank 4.');
  expect(now).not.toContain('Rank 4.');
  const rank = Number(/Rank (\d)/.exec(now)?.[1]);
  // On the day of their first order nobody of the five had a rank when it began.
  const figures = await replayed(thanks(id, 'person.rank is empty'));
  expect(figures.entered).toBe(14);
  expect(figures.mails).toBe(5);
  expect(rank).toBeLessThan(4);
});

test('a mail shows what rules would have picked then, from what everybody had done until then', async () => {
  await typed(
    'catalog',
    ...['pot', 'spade', 'bench'].map((sku) => ({ sku, name: `The ${sku}`, price: 2 })),
  );
  const made = await api('post', '/shops/s/rules', {
    ...{ name: 'best', label: 'Best', number: 1, exclude: { out_of_stock: true, in_cart: true } },
    steps: [{ take: 3, step: { kind: 'best_sellers', days: 30, by: 'units' } }],
  });
  expect([made.status, said(made)]).toEqual([201, undefined]);
  for (const sku of ['pot', 'pot', 'spade']) await ordered(`${sku}${++count}@q.example`, sku);
  await ordered(MAUD, 'bench');
  const first = await clock();
  await hours(24);
  for (let n = 0; n < 3; n++) await ordered(`s${n}@q.example`, 'spade');
  const id = await template('{{ picks.best.name }}.');
  expect(await opened(id, idOf(MAUD), first)).toContain('The pot.');
  expect(await opened(id, idOf(MAUD), await clock())).toContain('The spade.');
});

test('a mail of a rehearsal shows the cart that was made up for it, and the same whenever it is opened', async () => {
  const people = [0, 1, 2, 3, 4, 5];
  for (let visit = 0; visit < 5; visit++) {
    for (const i of people) {
      const added = {
        ...{ id: `c${i}-${visit}`, at: await clock(), shop: 's', email: `p${i}@q.example` },
        ...{ kind: 'cart_added', sku: 'pot', name: 'The pot', price: 10, quantity: 1 },
        currency: 'EUR',
      };
      expect((await api('post', '/events', [added])).status).toBe(200);
    }
    await hours(24);
  }
  for (const i of people) await ordered(`p${i}@q.example`, 'pot');
  await hours(24);
  const id = await template('In the cart: {{ join(cart.lines.name, ", ") otherwise "nothing" }}.');
  const occasion: Occasion = {
    ...thanks(id),
    ...{ start: { kind: 'cart_left' }, whom: { guests: true } },
  };
  const body = { occasions: [{ id: 'o', occasion }], mode: 'rehearse', days: 120 };
  const answer = await api('post', '/shops/s/occasions/replay', body);
  const { figures, as_of } = answer.body as ReplayAnswer;
  const [sample] = figures.samples;
  expect(sample).toBeDefined();
  const asked = {
    ...{ template: id, person: sample?.person, about: sample?.about },
    at: new Date(sample?.at ?? 0).toISOString(),
  };
  const text = async (more: object) =>
    ((await api('post', '/shops/s/occasions/mail', { ...asked, ...more })).body as { text: string })
      .text;
  expect(await text({})).toContain('In the cart: nothing.');
  const rehearsal = { days: 120, as_of };
  const made = await text({ rehearsal });
  expect(made).toMatch(/In the cart: The pot/);
  await hours(1);
  expect(await text({ rehearsal })).toBe(made);
  // Who goes on asks as of the same instant.
  const again = await api('post', '/shops/s/occasions/replay', { ...body, as_of });
  expect((again.body as ReplayAnswer).figures).toEqual(figures);
});
