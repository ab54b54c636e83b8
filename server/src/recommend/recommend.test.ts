import type { PicksOfPerson } from '@carafe/contract';
import { NEW_SHOPPER } from '@carafe/core/record';
import { blankTemplate, composer } from '@carafe/core/template';
import { packsOf } from '../outbox/kept';
import { asking, said, TEST_SHOP, testServer } from '../testing';

type Server = Awaited<ReturnType<typeof testServer>>;
let carafe: Server;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

const api = asking(() => carafe);

const rule = (name: string, ...steps: object[]) => ({
  ...{ name, label: name, number: 3 },
  steps: steps.map((step) => ({ take: 3, step })),
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
});
const SELLERS = { kind: 'best_sellers', days: 30, by: 'units' };

let count = 0;
const order = (email: string, ...skus: string[]) => ({
  ...{ id: `o${++count}`, shop: 's', email, kind: 'order_placed', number: `N${count}` },
  ...{ at: '2026-11-20T09:00:00Z', currency: 'EUR' },
  lines: skus.map((sku) => ({ sku, name: sku, price: 2, quantity: 1 })),
});
async function trade(): Promise<void> {
  const source = await api('post', '/sources', {
    ...{ shop: 's', name: 'Garden', kind: 'typed', target: 'catalog', formula_name: 'garden' },
  });
  const records = ['pot', 'feed', 'spade', 'bench'].map((sku) => ({
    ...{ sku, name: `The ${sku}`, price: 2, in_stock: sku !== 'bench' },
  }));
  await api('post', `/sources/${(source.body as { id: string }).id}/typed`, { records });
  const events = [
    order('ann@q.example', 'pot', 'feed', 'bench'),
    order('bob@q.example', 'pot', 'feed'),
    order('cid@q.example', 'pot'),
    order('dan@q.example', 'spade'),
  ];
  expect((await api('post', '/events', events)).status).toBe(200);
}
const picksFor = async (name: string, person: string) =>
  (await api('get', `/shops/s/picks/${name}/${person}`)).body as PicksOfPerson;

test('a rule picks for a person, with the reasons, and for somebody new', async () => {
  await trade();
  const together = { kind: 'bought_together', seed: 'latest_order' };
  expect((await api('post', '/shops/s/rules', rule('after', together, SELLERS))).status).toBe(201);
  const cid = await picksFor('after', 'cid@q.example');
  expect(cid.picks.map(({ sku, step }) => [sku, step])).toEqual([
    ['feed', 0],
    ['spade', 1],
  ]);
  expect(cid.picks[0]?.figure).toMatch(
    /^bought together with The pot by only 2 people, 1\.3 × more/,
  );
  expect(cid.passed).toContainEqual(expect.objectContaining({ sku: 'bench', why: 'out of stock' }));
  const nobody = await picksFor('after', 'new@q.example');
  expect(nobody.picks.map(({ sku }) => sku)).toEqual(['pot', 'feed', 'spade']);
});

test('a formula over picks is asked of many people, though nothing was picked for anybody yet', async () => {
  await trade();
  await api('post', '/shops/s/rules', rule('best', SELLERS));
  for (let i = 0; i < 250; i++)
    carafe.tables.people.keep('s', `p${i}@q.example`, { email: `p${i}@q.example` }, NEW_SHOPPER);
  const asked = { formula: 'count(picks.best) = 2' };
  const { status, body } = await api('post', '/shops/s/audience', asked);
  expect([status, body]).toEqual([200, expect.objectContaining({ of: 254, holds: 2 })]);
});

test('what is bought meanwhile is known at once', async () => {
  await trade();
  await api('post', '/shops/s/rules', rule('best', SELLERS));
  expect((await picksFor('best', 'x@q.example')).picks[0]?.sku).toBe('pot');
  const more = Array.from({ length: 5 }, (_, i) => order(`p${i}@q.example`, 'spade'));
  await api('post', '/events', more);
  expect((await picksFor('best', 'x@q.example')).picks[0]?.sku).toBe('spade');
});

test('rules are kept by their name, changed, deleted, and refused in words', async () => {
  const made = await api('post', '/shops/s/rules', rule('best', SELLERS));
  const { id } = made.body as { id: string };
  expect(said(await api('post', '/shops/s/rules', rule('best', SELLERS)))).toMatch(
    /There is a rule “best” already/,
  );
  for (const wrong of [
    { ...rule('x', SELLERS), number: 0 },
    { ...rule('x', SELLERS), number: 1000 },
    { ...rule('x'), steps: [] },
    rule('x', { kind: 'nothing' }),
    rule('1 x', SELLERS),
  ])
    expect((await api('post', '/shops/s/rules', wrong)).status).toBe(400);
  await api('put', `/rules/${id}`, { ...rule('better', SELLERS), number: 1 });
  expect((await api('get', '/shops/s/picks/best/a@q.example')).status).toBe(404);
  expect(await picksFor('better', 'a@q.example')).toMatchObject({ picks: [], passed: [] });
  expect((await api('delete', `/rules/${id}`)).status).toBe(204);
  expect((await api('get', '/shops/s/rules')).body).toEqual({ rules: [] });
});

test('picks are in the records of people and in the shape, as products with their reason', async () => {
  await trade();
  await api('post', '/shops/s/rules', rule('best', SELLERS));
  const id = carafe.tables.people.idOf('s', 'dan@q.example') ?? 0;
  const answer = await api('get', `/shops/s/people?ids=${id}`);
  const { people, products } = answer.body as {
    people: { data: { picks: Record<string, object[]> } }[];
    products: { sku: string }[];
  };
  expect(people[0]?.data.picks).toEqual({
    best: [
      { sku: 'pot', reason: 'Zurzeit viel gekauft', step: 0 },
      { sku: 'feed', reason: 'Zurzeit viel gekauft', step: 0 },
    ],
  });
  // Whoever shows none does not wait for them.
  const without = await api('get', `/shops/s/people?ids=${id}&picks=none`);
  expect(without.body).toMatchObject({ people: [{ id }] });
  expect(JSON.stringify(without.body)).not.toContain('"picks"');
  expect((await api('get', `/shops/s/people?ids=${id}&picks=some`)).status).toBe(400);
  // What is picked comes along, though the catalog may not.
  expect(products.map(({ sku }) => sku)).toEqual(expect.arrayContaining(['pot', 'feed', 'spade']));
  const shape = await api('get', '/shops/s/shape');
  expect(JSON.stringify(shape.body)).toContain('"picks"');
});

test('a segment may ask what rules pick: counted, sampled, and as the audience of a template', async () => {
  await trade();
  await made(rule('best', SELLERS));
  const asked = (formula: string) => api('post', '/shops/s/audience', { formula });
  // Whoever bought the pot is not shown it once more; Dan did not.
  expect((await asked('picks.best[1].sku = "pot"')).body).toMatchObject({ of: 4, holds: 1 });
  expect((await asked('picks.best[1].sku = "unknown"')).body).toMatchObject({ holds: 0 });
  const samples = await api('post', '/shops/s/samples', { formula: 'picks.best[1].name' });
  expect(JSON.stringify(samples.body)).toContain('The spade');
  await api('post', '/shops/s/segments', {
    ...{ name: 'Potters', formula: 'picks.best[1].sku = "pot" and count(catalog.garden) > 0' },
  });
  const template = blankTemplate('Letter', 's', [], 'post@s.example');
  const survey = await api('post', '/shops/s/survey', {
    ...{ template, audience: { of: 'segment', name: 'Potters' }, after: 0, most: 400 },
  });
  expect((survey.body as { survey: { people: number } }).survey.people).toBe(1);
});

const looked = (email: string, sku: string, kind = 'viewed') => ({
  ...{ id: `v${++count}`, shop: 's', email, kind, sku, at: '2026-11-23T09:00:00Z' },
  ...(kind === 'cart_added' && { name: sku, price: 2, quantity: 1, currency: 'EUR' }),
});
const made = async (body: object) =>
  ((await api('post', '/shops/s/rules', body)).body as { id: string }).id;

test('what is looked at and put into the cart counts at once, for whoever did it alone', async () => {
  await trade();
  await made(rule('looked', { kind: 'looked_at', days: 30 }));
  await made({
    ...rule('left', { kind: 'left_in_cart', by: 'person', days: 30 }),
    exclude: { out_of_stock: true, in_cart: false },
  });
  expect((await picksFor('looked', 'dan@q.example')).picks).toEqual([]);
  await api('post', '/events', [
    looked('dan@q.example', 'feed'),
    looked('dan@q.example', 'pot', 'cart_added'),
  ]);
  expect((await picksFor('looked', 'dan@q.example')).picks.map(({ sku }) => sku)).toEqual(['feed']);
  expect((await picksFor('left', 'dan@q.example')).picks.map(({ sku }) => sku)).toEqual(['pot']);
  expect((await picksFor('looked', 'ann@q.example')).picks).toEqual([]);
});

test('a product that comes back into stock with an import is told so', async () => {
  await trade();
  const { sources } = (await api('get', '/sources')).body as { sources: { id: string }[] };
  await made(rule('back', { kind: 'back_in_stock', days: 14 }));
  expect((await picksFor('back', 'x@q.example')).picks).toEqual([]);
  const records = ['pot', 'feed', 'spade', 'bench'].map((sku) => ({
    ...{ sku, name: `The ${sku}`, price: 2, in_stock: true },
  }));
  const typed = await api('post', `/sources/${sources[0]?.id ?? ''}/typed`, { records });
  expect(typed.status).toBeLessThan(300);
  const { picks } = await picksFor('back', 'x@q.example');
  expect(picks.map(({ sku, reason }) => [sku, reason])).toEqual([['bench', 'Wieder da']]);
});

test('what an import says is out of stock is picked for nobody from then on', async () => {
  await trade();
  const { sources } = (await api('get', '/sources')).body as { sources: { id: string }[] };
  await made(rule('sellers', SELLERS));
  expect((await picksFor('sellers', 'x@q.example')).picks[0]?.sku).toBe('pot');
  const records = [{ sku: 'pot', name: 'The pot', price: 2, in_stock: false }];
  const typed = await api('post', `/sources/${sources[0]?.id ?? ''}/typed`, { records });
  expect(typed.status).toBeLessThan(300);
  const { picks, passed } = await picksFor('sellers', 'x@q.example');
  expect(picks.map(({ sku }) => sku)).toEqual(['feed', 'spade']);
  expect(passed).toContainEqual(expect.objectContaining({ sku: 'pot', why: 'out of stock' }));
});

test('a rule that a template shows is neither renamed nor deleted, and says where it stands', async () => {
  const id = await made(rule('best', SELLERS));
  const blank = blankTemplate('Letter', 's', [], 'post@s.example');
  const c = composer(carafe.newId);
  const section = c.section('Cards', [
    c.block('cards', { items: { list: 'picks.best', as: 'product' } }),
  ]);
  const stored = await api('post', '/templates', {
    template: { ...blank, sections: [section] },
  });
  expect(stored.status).toBe(201);
  const refused = await api('delete', `/rules/${id}`);
  expect([refused.status, said(refused)]).toEqual([
    409,
    '“best” is used in “Letter”, so it cannot be deleted. Remove picks.best there first.',
  ]);
  expect(said(await api('put', `/rules/${id}`, rule('other', SELLERS)))).toMatch(
    /used in “Letter”/,
  );
  const { rules } = (await api('get', '/shops/s/rules')).body as {
    rules: { used_by: { name: string }[] }[];
  };
  expect(rules[0]?.used_by.map(({ name }) => name)).toEqual(['Letter']);
});

test('formulas of a rule that cannot be asked are refused with a sentence', async () => {
  const wrong = async (more: object) =>
    said(await api('post', '/shops/s/rules', { ...rule('x', SELLERS), ...more }));
  expect(await wrong({ pool: 'product.price <' })).toMatch(/^The pool: It cannot be read/);
  expect(await wrong({ pool: 'picks.y is filled' })).toMatch(/picks are made from it/);
  const exclude = { out_of_stock: true, in_cart: true, where: 'coupon.x is filled' };
  expect(await wrong({ exclude })).toMatch(/^What is left out: It cannot read “coupon”/);
});

test('a rule of a name is found in whatever shop; of two it is asked which', async () => {
  await trade();
  await made(rule('best', SELLERS));
  const of = (query = '') => api('get', `/picks/best/cid@q.example${query}`);
  expect(((await of()).body as PicksOfPerson).picks.map(({ sku }) => sku)).toEqual([
    ...['feed', 'spade'],
  ]);
  carafe.tables.shops.insert({ ...TEST_SHOP, id: 'two' });
  await api('post', '/shops/two/rules', rule('best', SELLERS));
  expect(said(await of())).toMatch(/Several shops .* \?shop=s/);
  expect((await of('?shop=s')).status).toBe(200);
  expect((await api('get', '/picks/none/x@q.example')).status).toBe(404);
});

test('figures over everybody come some at a time, with the pool at the beginning', async () => {
  await trade();
  const id = await made({ ...rule('best', SELLERS), pool: 'product.sku != "pot"' });
  const { body } = await api('get', `/rules/${id}/figures`);
  expect(body).toMatchObject({
    people: 4,
    next: null,
    // Out of stock for all; what each bought does not come again.
    figures: { people: 4, picks: 5, steps: [5], fewer: 4, none: 0, shown: { feed: 2, spade: 3 } },
  });
  const { pool } = body as { pool: { sku: string }[] };
  expect(pool.map(({ sku }) => sku)).toEqual(['feed', 'spade', 'bench']);
  const after = (await api('get', `/rules/${id}/figures?after=2`)).body as { pool?: object };
  expect(after.pool).toBeUndefined();
});

test('a trial needs orders before, tells what it did, and tunes a mix only', async () => {
  await trade();
  const id = await made(rule('best', SELLERS));
  const empty = await api('post', `/rules/${id}/trial`, {});
  expect(empty.body).toMatchObject({ of: 0, result: { people: 0 } });
  await api('post', '/events', [
    { ...order('ann@q.example', 'spade'), at: '2026-11-22T09:00:00Z' },
    { ...order('bob@q.example', 'spade'), at: '2026-11-23T09:00:00Z' },
  ]);
  const { body } = await api('post', `/rules/${id}/trial`, { against: id });
  const { of, result } = body as { of: number; result: { rules: object[] } };
  expect([of, result.rules.length]).toEqual([2, 2]);
  // Spades were sold before, and nobody of the two had one: both are hits. The bench comes, too.
  expect(result.rules[0]).toMatchObject({ hits: { mean: 1 }, products: 2 });
  expect(said(await api('post', `/rules/${id}/trial`, { tune: true }))).toMatch(
    /Only mixed steps have weights/,
  );
  const mix = { ...rule('mix', SELLERS, { kind: 'newest' }, { kind: 'at_random' }), mixed: true };
  const tuned = await api('post', `/rules/${await made(mix)}/trial`, { tune: true });
  expect((tuned.body as { weights: number[] }).weights).toHaveLength(3);
});

test('reasons are in the language of the shop', async () => {
  carafe.tables.shops.update({ ...TEST_SHOP, locale: 'fr-FR' });
  await trade();
  await made(rule('best', SELLERS));
  expect((await picksFor('best', 'new@q.example')).picks[0]?.reason).toBe(
    'Très demandé en ce moment',
  );
});

test('emails use what was published; the draft is looked at, published, or copied to another shop', async () => {
  await trade();
  const hand = (...of: string[]) => rule('own', { kind: 'by_hand', skus: of });
  const id = await made(hand('pot'));
  const ann = carafe.tables.people.idOf('s', 'ann@q.example') ?? 0;
  const inEmails = async () =>
    (await carafe.rules.ofMany('s', [ann]))[ann]?.['own']?.map(({ sku }) => sku);
  const inDraft = async () => {
    const { body } = await api('get', '/shops/s/picks/own/new@q.example?version=draft');
    return (body as PicksOfPerson).picks.map(({ sku }) => sku);
  };
  const changed = await api('put', `/rules/${id}`, { ...hand('spade'), label: 'Called anew' });
  expect(changed.body).toMatchObject({
    rule: { label: 'Called anew', steps: [{ step: { skus: ['spade'] } }] },
    published: { label: 'Called anew', steps: [{ step: { skus: ['pot'] } }] },
  });
  const outside = () => picksFor('own', 'new@q.example');
  expect([await inDraft(), (await outside()).picks[0]?.sku]).toEqual([['spade'], 'pot']);
  expect(await inEmails()).toEqual([]);
  // Deleted and restored, the draft is not published by the way.
  await api('delete', `/rules/${id}`);
  const [item] = (await api('get', '/deleted')).body.deleted as { id: string }[];
  await api('post', `/deleted/rule/${item?.id ?? ''}/restore`);
  expect((await outside()).picks[0]?.sku).toBe('pot');

  const { version } = changed.body as { version: string };
  const stale = await api('post', `/rules/${id}/publish?version=old`);
  expect([stale.status, said(stale)]).toEqual([409, expect.stringContaining('changed elsewhere')]);
  expect((await api('post', `/rules/${id}/publish?version=${version}`)).status).toBe(200);
  expect(await inEmails()).toEqual(['spade']);

  carafe.tables.shops.insert({ ...TEST_SHOP, id: 'other', name: 'Other' });
  const copy = await api('post', `/rules/${id}/copy`, { shop: 'other' });
  expect(copy.body).toMatchObject({
    rule: { rule: { name: 'own', label: 'Called anew' } },
    lacks: ['1 product of its steps is not in this shop’s catalog: spade.'],
  });
  const beside = await api('post', `/rules/${id}/copy`, { shop: 's' });
  expect(beside.body).toMatchObject({ rule: { rule: { name: 'own_2' } }, lacks: [] });
});

test('what people like is reckoned beside all else, and known then', async () => {
  await trade();
  await made(rule('taste', { kind: 'same_taste' }));
  await picksFor('taste', 'cid@q.example');
  await carafe.rules.tasted('s');
  const { picks } = await picksFor('taste', 'cid@q.example');
  expect(picks.map(({ reason }) => reason)[0]).toBe('Nach Ihrem Geschmack ausgewählt');
});

test('best sellers among the people of a segment; what stood in the last mails is left out', async () => {
  await trade();
  await api('post', '/shops/s/segments', {
    name: 'Cid',
    formula: 'person.email starts with "cid"',
  });
  const among = { kind: 'best_sellers' as const, days: 365, by: 'units' as const };
  await made(rule('all', among));
  await made(rule('cid', { ...among, among: 'segment', segment: 'Cid' }));
  const skus = async (name: string) =>
    ((await api('get', `/shops/s/picks/${name}/dan@q.example`)).body as PicksOfPerson).picks.map(
      ({ sku }) => sku,
    );
  const [all, cid] = [await skus('all'), await skus('cid')];
  expect(cid.length).toBeGreaterThan(0);
  expect(cid).not.toEqual(all);
  const refused = await api('delete', '/shops/s/segments/Cid');
  expect(said(refused)).toMatch(/^“Cid” is used by “/);
  // A mail that showed the first of them.
  const { outbox } = carafe.tables;
  const about = { occasion: 'o', version: 1, cause: 'c', about: {}, at: 0, kind: 'mail' as const };
  const step = { id: 'a', kind: 'send' as const, template: 't', mail: 'marketing' as const };
  outbox.insert(
    ...(['m1', 's', 'dan@q.example'] as const),
    { ...about, key: 'k', step: { ...step, mode: 'on', to: 'person' }, beside: {} },
    {},
  );
  const filled = {
    ...{ id: 'm1', subject: 'S', to: 'dan@q.example', messageId: '<m1>', links: [] },
    ...{ kept: { message: [], trail: [] }, shown: [all[0] ?? ''], tracked: false, published: 1 },
  };
  for (const pack of packsOf([filled])) outbox.fill(pack, 0);
  const exclude = { out_of_stock: true, in_cart: true, shown_mails: 3 };
  await made({ ...rule('fresh', among), exclude });
  expect(await skus('fresh')).not.toContain(all[0]);
});
