import { formulaProblem, historyOf, NOT_IN_EXCLUSION, NOT_IN_POOL, pick, Rule, shopOf } from '.';
import { bought, nobody, people, product, rule, skus } from './testing';

const catalog = [
  product('a', { price: 2, category: 'Seeds' }),
  product('b', { price: 3, category: 'Seeds' }),
  product('c', { price: 9, category: 'Pots' }),
  product('d', { price: 20, category: 'Pots', added_at: '2026-11-01' }),
  product('e', { category: undefined, price: undefined }),
];
const shop = shopOf(historyOf([]), catalog);
const hand = (...named: string[]) => ({ kind: 'by_hand', skus: named });
const all = hand('a', 'b', 'c', 'd', 'e');

test('only what is in the pool is picked; a pool of nothing gives nothing', () => {
  const of = (pool: string) => skus(pick({ ...rule(all), pool }, shop, nobody));
  expect(of('product.price < 10')).toEqual(['a', 'b', 'c']);
  expect(of('product.category = "Pots"')).toEqual(['c', 'd']);
  expect(of('false')).toEqual([]);
  expect(of('  ')).toHaveLength(4);
});

test('formulas are asked on the day that it is in the shop, or for the person', () => {
  // Nine in the evening of the 23rd in New York is the 24th for whoever goes by UTC.
  const now = Date.parse('2026-11-24T02:00:00Z');
  const record = { timezone: 'America/New_York' };
  const there = shopOf(historyOf([]), catalog, { record });
  const pool = 'today = "2026-11-23"';
  const of = (where: Partial<Rule>, asked: object = {}) =>
    skus(pick({ ...rule(all), ...where }, there, { ...nobody, now, ...asked }));
  expect(of({ pool })).toHaveLength(4);
  expect(skus(pick({ ...rule(all), pool }, shop, { ...nobody, now }))).toEqual([]);
  expect(of({ pool: 'shop.timezone = "America/New_York"' })).toHaveLength(4);
  const exclude = { ...rule(all).exclude, where: pool };
  expect(of({ exclude })).toEqual([]);
  const london = { person: { timezone: 'Europe/London' } } as never;
  expect(of({ exclude }, { record: london })).toHaveLength(4);
});

test('a formula leaves out, and may read the person', () => {
  const exclude = { ...rule(all).exclude, where: 'product.price > person.most' };
  const asked = { ...nobody, record: { person: { most: 5 } } as never };
  const { picks, passed } = pick({ ...rule(all), exclude }, shop, asked);
  expect(picks.map(({ product: { sku } }) => sku)).toEqual(['a', 'b', 'e']);
  expect(passed.map(({ why }) => why)).toEqual([
    'left out by the formula',
    'left out by the formula',
  ]);
});

test('what stood in the last mails is left out, for as many as the rule says', () => {
  const exclude = { ...rule(all).exclude, shown_mails: 1 };
  const shown = [['a'], ['b', 'c']];
  expect(skus(pick({ ...rule(all), exclude }, shop, { ...nobody, shown }))).toEqual([
    ...['b', 'c', 'd', 'e'],
  ]);
  const two = { ...exclude, shown_mails: 2 };
  expect(skus(pick({ ...rule(all), exclude: two }, shop, { ...nobody, shown }))).toEqual([
    'd',
    'e',
  ]);
});

test('the spread over prices counts bands that reach to twice their beginning', () => {
  const spread = { by: 'price' as const, most: 1 };
  const { picks, passed } = pick({ ...rule(all), spread }, shop, nobody);
  // 2 and 3 are of one band; what has no price is of none.
  expect(picks.map(({ product: { sku } }) => sku)).toEqual(['a', 'c', 'd', 'e']);
  expect(passed[0]?.why).toBe('1 of 2 to 4 is there already');
});

test('picks stand as the rule says', () => {
  const of = (order: Rule['order']) =>
    skus(pick({ ...rule(hand('c', 'a', 'd')), order }, shop, nobody));
  expect(of(undefined)).toEqual(['c', 'a', 'd']);
  expect(of('price_up')).toEqual(['a', 'c', 'd']);
  expect(of('price_down')).toEqual(['d', 'c', 'a']);
  expect(of('newest')[0]).toBe('d');
  expect(of('name')).toEqual(['a', 'c', 'd']);
});

test('what is pinned stands at its place, and what is missing is filled up', () => {
  const pinned: Rule = {
    ...rule(hand('a', 'b', 'c'), { ...hand('d'), place: 2 }),
    number: 3,
  };
  const { picks } = pick(pinned, shop, nobody);
  expect(picks.map(({ product: { sku }, step }) => [sku, step])).toEqual([
    ...[
      ['a', 0],
      ['d', 1],
      ['b', 0],
    ],
  ]);
  // Nothing to pin: its place is taken by another.
  const gone: Rule = { ...rule(hand('a', 'b', 'c'), { ...hand('gone'), place: 1 }), number: 3 };
  expect(skus(pick(gone, shop, nobody))).toEqual(['a', 'b', 'c']);
});

test('pins keep their places, whichever step asks first', () => {
  const pin = (place: number, ...named: string[]) => ({ ...hand(...named), place });
  const of = (number: number, ...steps: object[]) =>
    skus(pick({ ...rule(...steps), number }, shop, nobody));
  expect(of(4, pin(3, 'c'), pin(1, 'd'), hand('a', 'b'))).toEqual(['d', 'a', 'c', 'b']);
  expect(of(4, pin(2, 'c', 'd'), pin(2, 'e'), hand('a', 'b'))).toEqual(['a', 'c', 'd', 'e']);
  // Too little before it: the list is shorter, and keeps the order.
  expect(of(4, pin(4, 'c'), hand('a'))).toEqual(['a', 'c']);
  const sorted: Rule = { ...rule(pin(1, 'd'), hand('c', 'a', 'b')), order: 'price_up' };
  expect(skus(pick(sorted, shop, nobody))).toEqual(['d', 'a', 'b', 'c']);
});

test('what a step gives is looked for beyond its first part where the pool lets too little of that through', () => {
  // 70 products that more people bought with the seed, and three that fewer did.
  const many = Array.from({ length: 70 }, (_, i) => `m-${i}`);
  const few = ['f-0', 'f-1', 'f-2'];
  const lines = Array.from({ length: 30 }, (_, p) => [
    ...[bought(`p-${p}`, 'seed', 9), ...many.map((sku) => bought(`p-${p}`, sku, 5))],
    ...(p < 4 ? few.map((sku) => bought(`p-${p}`, sku, 5)) : []),
  ]).flat();
  const others = Array.from({ length: 40 }, (_, p) => bought(`o-${p}`, 'other'));
  const history = historyOf(people([...lines, ...others]));
  const records = ['seed', ...many, ...few].map((sku) => product(sku, { brand: sku[0] }));
  const large = shopOf(history, records);
  const pool = 'product.brand = "f"';
  const asked = { ...nobody, cart: ['seed'], latest: ['seed'] };
  for (const step of [
    { kind: 'bought_together', seed: 'cart' },
    { kind: 'bought_next', seed: 'latest_order' },
    {
      kind: 'similar',
      seed: 'cart',
      weights: { words: 0, category: 1, brand: 1, tags: 0, price: 0 },
    },
  ])
    expect(skus(pick({ ...rule(step), pool }, large, asked)).sort()).toEqual(few);
});

test('a mix counts what may be picked, however much comes before it', () => {
  const records = Array.from({ length: 150 }, (_, i) =>
    product(`n-${i}`, { in_stock: i >= 120, added_at: new Date(nobody.now - i * 3_600_000) }),
  );
  const made = rule({ kind: 'newest' }, { kind: 'newest' }, hand());
  const mix: Rule = { ...made, mixed: true };
  expect(skus(pick(mix, shopOf(historyOf([]), records), nobody))).toEqual([
    'n-120',
    'n-121',
    'n-122',
    'n-123',
  ]);
});

test('what is new counts by its age, half as much after the half-life, within the window', () => {
  const day = 86_400_000;
  const records = [0, 30, 60, 400].map((age) =>
    product(`n-${age}`, { added_at: new Date(nobody.now - age * day) }),
  );
  const of = (step: object) =>
    pick(rule({ kind: 'newest', ...step }), shopOf(historyOf([]), records), nobody);
  expect(of({}).picks.map(({ score }) => score)).toEqual([1, 0.5, 0.25, 0.5 ** (400 / 30)]);
  expect(skus(of({ days: 45 }))).toEqual(['n-0', 'n-30']);
  expect(of({ half_life: 60 }).picks[2]?.score).toBe(0.5);
  // So old that its score is next to nothing: it comes all the same.
  expect(skus(of({ half_life: 1 }))).toHaveLength(4);
});

describe('a mix', () => {
  const mix = (...weights: number[]): Rule => {
    const [one, two] = weights;
    const made = rule(hand('a', 'b', 'c'), hand('c', 'd'), hand('e'));
    const [first, second, last] = made.steps;
    if (!first || !second || !last) throw new Error('three steps');
    return {
      ...made,
      mixed: true,
      steps: [{ ...first, weight: one ?? 1 }, { ...second, weight: two ?? 1 }, last],
    };
  };
  test('adds up what its steps say, by their weights; the last fills up', () => {
    // a 1, b 2/3, c 1/3 of the first; c 1, d 1/2 of the second.
    expect(skus(pick(mix(1, 1), shop, nobody))).toEqual(['c', 'a', 'b', 'd']);
    expect(skus(pick(mix(0, 1), shop, nobody))).toEqual(['c', 'd', 'e']);
    expect(skus(pick({ ...mix(1, 0), number: 4 }, shop, nobody))).toEqual(['a', 'b', 'c', 'e']);
  });
  test('says the step that gave most', () => {
    const { picks } = pick(mix(1, 1), shop, nobody);
    expect(picks[0]).toMatchObject({ step: 1 });
    expect(picks[0]?.score).toBeCloseTo(4 / 3);
  });
});

test('a shop where everything was bought, and one without any product, give nothing', () => {
  const lines = catalog.map((record) => bought('ann', (record as unknown as { sku: string }).sku));
  const known = shopOf(historyOf(people(lines)), catalog);
  const ever: Rule = { ...rule(all), exclude: { ...rule(all).exclude, bought_days: 'ever' } };
  const { picks, passed } = pick(ever, known, { ...nobody, person: 'ann' });
  expect([picks, passed.length]).toEqual([[], 5]);
  expect(skus(pick(ever, shopOf(historyOf([]), []), nobody))).toEqual([]);
});

test('formulas that cannot be asked are told in words', () => {
  expect(formulaProblem('product.price < 10 and product.in_stock', NOT_IN_POOL)).toBeNull();
  expect(formulaProblem('product.price <', NOT_IN_POOL)).toMatch(/^It cannot be read: /);
  expect(formulaProblem('picks.other is filled', NOT_IN_POOL)).toMatch(/picks are made from it/);
  expect(formulaProblem('person.rank > 2', NOT_IN_POOL)).toMatch(/It cannot read “person”/);
  expect(formulaProblem('product.price > person.rank', NOT_IN_EXCLUSION)).toBeNull();
});

test('a rule says what is wrong with it in its own words', () => {
  const wrong = Rule.safeParse({ ...rule(all), number: 1000, steps: [], name: '1 x' });
  expect(wrong.success).toBe(false);
  expect(wrong.error?.issues.map(({ message }) => message)).toEqual([
    'The name in formulas is letters, digits and underscores, and begins with a letter.',
    'How many products is at most 50.',
    'A rule needs at least one step.',
  ]);
});

test('what is in the latest order and what was bought lately are left out each by itself', () => {
  const asked = { ...nobody, latest: ['a', 'b'] };
  const of = (exclude: object) =>
    skus(pick({ ...rule(all), exclude: { ...rule(all).exclude, ...exclude } }, shop, asked));
  expect(of({})).toEqual(['a', 'b', 'c', 'd']);
  expect(of({ latest_order: true })).toEqual(['c', 'd', 'e']);
  expect(of({ bought_days: 30, latest_order: false })).toEqual(['a', 'b', 'c', 'd']);
  // Rules that were made before the two were told apart stay as they were.
  expect(of({ bought_days: 30 })).toEqual(['c', 'd', 'e']);
});

test('each of a product’s categories counts for the spread', () => {
  const many = shopOf(historyOf([]), [
    product('a', { category: 'Seeds', categories: ['Seeds', 'Gifts'] }),
    product('b', { category: 'Pots', categories: ['Gifts'] }),
    product('c', { category: 'Tools' }),
    product('d', { category: 'Seeds' }),
  ]);
  const spread = { by: 'category' as const, most: 1 };
  const { picks, passed } = pick({ ...rule(hand('a', 'b', 'c', 'd')), spread }, many, nobody);
  expect(picks.map(({ product: { sku } }) => sku)).toEqual(['a', 'c']);
  expect(passed.map(({ product: { sku }, why }) => [sku, why])).toEqual([
    ['b', '1 of Gifts is there already'],
    ['d', '1 of Seeds is there already'],
  ]);
});
