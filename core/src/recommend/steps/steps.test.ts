import { historyOf, pick, shopOf, tasteOf, type Asked, type Shop } from '..';
import { ago, bought, nobody, NOW, people, product, rule, skus, type TestLine } from '../testing';

const ann: Asked = { ...nobody, person: 'ann' };
const asked = (shop: Shop, step: object, who: Partial<Asked> = {}) =>
  pick(rule(step), shop, { ...ann, ...who });
const shopWith = (lines: readonly TestLine[], catalog: readonly object[], more: object = {}) =>
  shopOf(historyOf(people(lines, more)), catalog as never);
const figures = ({ picks }: ReturnType<typeof pick>) => picks.map((one) => one.figure);
const reasons = ({ picks }: ReturnType<typeof pick>) => picks.map((one) => one.reason);

describe('best sellers', () => {
  const lines = [
    ...['a', 'b', 'c'].map((person) => bought(person, 'pot', 2)),
    bought('ann', 'seed', 2),
    ...['d', 'e'].map((person) => bought(person, 'bean', 2)),
  ];
  const catalog = [product('pot', { category: 'Pots' }), product('seed'), product('bean')];

  test('of the categories that somebody bought from; of somebody new, of all', () => {
    const shop = shopWith(lines, catalog);
    const step = { kind: 'best_sellers', days: 30, by: 'buyers', among: 'own_categories' };
    expect(skus(asked(shop, step))).toEqual(['bean', 'seed']);
    expect(skus(asked(shop, step, { person: 'new' }))).toEqual(['pot', 'bean', 'seed']);
  });

  test('of the country of somebody; where it is not known, of all', () => {
    const activity = people(lines).map((one) => ({
      ...one,
      country: ['d', 'e'].includes(one.person) ? 'DE' : 'GB',
    }));
    const shop = shopOf(historyOf(activity), catalog);
    const step = { kind: 'best_sellers', days: 30, by: 'buyers', among: 'country' };
    expect(skus(asked(shop, step, { country: 'DE' }))).toEqual(['bean']);
    expect(skus(asked(shop, step, { country: 'GB' }))).toEqual(['pot', 'seed']);
    expect(skus(asked(shop, step, { country: 'FR' }))).toEqual(['pot', 'bean', 'seed']);
  });
});

test('most looked at: each person once, in the days that count', () => {
  const viewed = [
    ...['a', 'b'].map((person) => bought(person, 'pot', 3)),
    ...[1, 2, 3].map((days) => bought('a', 'seed', days)),
    ...['a', 'b', 'c'].map((person) => bought(person, 'old', 40)),
  ];
  const shop = shopWith([], [product('old'), product('seed'), product('pot')], { viewed });
  const found = asked(shop, { kind: 'most_looked_at', days: 30 });
  expect(skus(found)).toEqual(['pot', 'seed']);
  expect(figures(found)[0]).toBe('looked at by 2 people in 30 days');
});

describe('bought next', () => {
  // Three of five bought pots after seeds, 20, 30 and 40 days later; feed nobody later.
  const lines = [
    ...['a', 'b', 'c', 'd', 'e'].map((person) => bought(person, 'seed', 100)),
    bought('a', 'pot', 80),
    bought('b', 'pot', 70),
    bought('c', 'pot', 60),
    bought('d', 'feed', 100),
    bought('e', 'feed', 120),
    bought('ann', 'seed', 25),
    ...[bought('f', 'rake', 90), bought('g', 'rake', 90)],
  ];
  const shop = shopWith(lines, [product('seed'), product('pot'), product('feed')]);

  test('is what was ordered later, with the usual time between and how much more than by chance', () => {
    const found = asked(shop, { kind: 'bought_next', seed: 'latest_order' }, { latest: ['seed'] });
    expect(skus(found)).toEqual(['pot']);
    // Of eight people six bought seeds and three pots: 3 · 8 / (6 · 3) = 1.3.
    expect(figures(found)).toEqual([
      'bought after The seed by only 3 people, usually 30 days later, 1.3 × more than by chance',
    ]);
    expect(reasons(found)).toEqual(['Often follows your The seed']);
  });

  test('of named products it says their name', () => {
    const step = { kind: 'bought_next', seed: 'named', skus: ['seed', 'gone'] };
    expect(reasons(asked(shop, step))).toEqual(['Often follows The seed']);
  });
});

test('due again: what people buy again after about so long, when it is so long ago', () => {
  const lines = [
    // Bought again after 60 and after 70 days; the bench by one person only.
    ...[bought('a', 'feed', 200), bought('a', 'feed', 140)],
    ...[bought('b', 'feed', 170), bought('b', 'feed', 100)],
    ...[bought('b', 'bench', 170), bought('b', 'bench', 100)],
    ...[bought('ann', 'feed', 66), bought('ann', 'bench', 70)],
    ...[bought('cid', 'feed', 10), bought('dan', 'feed', 300)],
  ];
  const shop = shopWith(lines, [product('feed'), product('bench')]);
  const step = { kind: 'due_again' };
  const found = asked(shop, step);
  expect(skus(found)).toEqual(['feed']);
  expect(figures(found)).toEqual([
    'bought again by 2 people, usually after 70 days; 66 days ago now',
  ]);
  // Too early for one, given up by the other.
  expect(skus(asked(shop, step, { person: 'cid' }))).toEqual([]);
  expect(skus(asked(shop, step, { person: 'dan' }))).toEqual([]);
});

describe('similar', () => {
  const catalog = [
    product('a', { name: 'Long Tom pot', tags: ['clay'], price: 10, category: 'Pots' }),
    product('b', { name: 'Long Tom pot, glazed', tags: ['clay'], price: 10, category: 'Pots' }),
    product('c', { name: 'Saucer', tags: ['clay'], price: 10, category: 'Pots' }),
    product('d', { name: 'Poppy', tags: ['sun'], price: 10, category: 'Seeds' }),
    product('e', { name: 'Long bench', price: 320, category: 'Tools' }),
  ];
  const shop = shopWith([], catalog);
  const of = (weights: object) =>
    asked(
      shop,
      {
        kind: 'similar',
        seed: 'cart',
        weights: { words: 0, category: 0, brand: 0, tags: 0, price: 0, ...weights },
      },
      { cart: ['a'] },
    );

  test('counts what its weights say: words, category, tags, price', () => {
    expect(skus(of({ words: 1 }))).toEqual(['b', 'e']);
    expect(skus(of({ category: 1 }))).toEqual(['b', 'c']);
    expect(figures(of({ category: 1 }))[0]).toBe('100 % like Long Tom pot');
    expect(skus(of({ words: 1, category: 1, tags: 1 }))).toEqual(['b', 'c', 'e']);
    // The bench costs 32 times as much: five doublings, 2⁻⁵.
    expect(
      of({ words: 0.0001, price: 1 }).picks.find((p) => p.product.sku === 'e')?.score,
    ).toBeCloseTo(1 / 32, 3);
  });

  test('nothing is like what has left the catalog, or where nothing counts', () => {
    const step = { kind: 'similar', seed: 'named', skus: ['gone'] };
    const weights = { words: 1, category: 1, brand: 1, tags: 1, price: 1 };
    expect(skus(asked(shop, { ...step, weights }))).toEqual([]);
    expect(skus(of({}))).toEqual([]);
  });
});

test('people of the same taste: who bought what their like bought', () => {
  // Two groups, each with products of its own; ann bought one of the first.
  const lines = Array.from({ length: 12 }, (_, i) =>
    (i % 2 ? ['pot', 'pan', 'jar'] : ['bean', 'kale', 'leek'])
      .filter((_sku, n) => (i >> 1) % 3 !== n)
      .map((sku) => bought(`p${i}`, sku, 10)),
  ).flat();
  const history = historyOf(people([...lines, bought('ann', 'pot', 5)]));
  const taste = tasteOf(history, { factors: 2, rounds: 10, alpha: 5, lambda: 1, seed: 1 });
  const catalog = ['bean', 'kale', 'leek', 'pot', 'pan', 'jar'].map((sku) => product(sku));
  const shop = shopOf(history, catalog, { taste });
  const found = asked(shop, { kind: 'same_taste' });
  expect(skus(found).slice(0, 3).sort()).toEqual(['jar', 'pan', 'pot']);
  expect(skus(asked(shop, { kind: 'same_taste' }, { person: 'new' }))).toEqual([]);
  // Without it being reckoned there is nothing to say.
  expect(skus(asked(shopOf(history, catalog), { kind: 'same_taste' }))).toEqual([]);
});

test('lately looked at and not bought since, the latest first', () => {
  const viewed = [
    bought('ann', 'old', 90),
    bought('ann', 'pot', 9),
    bought('ann', 'seed', 5),
    bought('ann', 'pot', 2),
    bought('ann', 'jar', 1),
  ];
  const shop = shopWith(
    [bought('ann', 'seed', 3), bought('ann', 'jar', 20)],
    ['old', 'pot', 'seed', 'jar'].map((sku) => product(sku)),
    { viewed },
  );
  const found = asked(shop, { kind: 'looked_at', days: 30 });
  expect(skus(found)).toEqual(['jar', 'pot']);
  expect(figures(found)).toEqual(['looked at 1 day ago', 'looked at 2 days ago']);
});

test('left in the cart, by one person and by everybody', () => {
  const carted = [
    bought('ann', 'pot', 5),
    bought('ann', 'seed', 4),
    ...['b', 'c'].map((person) => bought(person, 'jar', 3)),
    bought('b', 'seed', 3),
  ];
  const shop = shopWith(
    [bought('ann', 'pot', 4), bought('b', 'seed', 2)],
    ['pot', 'seed', 'jar'].map((sku) => product(sku)),
    { carted },
  );
  const step = { kind: 'left_in_cart', days: 30 };
  expect(skus(asked(shop, { ...step, by: 'person' }))).toEqual(['seed']);
  const all = asked(shop, { ...step, by: 'everybody' });
  expect(skus(all)).toEqual(['jar', 'seed']);
  expect(figures(all)[0]).toBe('left in 2 carts in 30 days');
});

test('back in stock: by a field of the product, or by what the catalog said before', () => {
  const catalog = [
    product('pot', { restocked_at: '2026-11-20' }),
    product('old', { restocked_at: '2026-01-01' }),
    product('jar'),
  ];
  const shop = shopOf(historyOf([]), catalog, { restocked: new Map([['jar', ago(1)]]) });
  expect(skus(asked(shop, { kind: 'back_in_stock', days: 14 }))).toEqual(['jar', 'pot']);
});

test('at random: the same through a week, another the next, and each product once', () => {
  const catalog = Array.from({ length: 30 }, (_, i) => product(`s${i}`));
  const shop = shopWith([], catalog);
  const at = (now: number, person = 'ann') =>
    skus(pick({ ...rule({ kind: 'at_random' }), number: 30 }, shop, { ...nobody, person, now }));
  // The 24th of November 2026 is a Tuesday.
  expect(at(NOW)).toEqual(at(NOW + 5 * 86_400_000));
  expect(at(NOW)).not.toEqual(at(NOW + 7 * 86_400_000));
  expect(at(NOW)).not.toEqual(at(NOW, 'bob'));
  expect(new Set(at(NOW)).size).toBe(30);
});

test('what was put in again counts from the last time; the latest first', () => {
  const carted = [bought('ann', 'pot', 20), bought('ann', 'seed', 10), bought('ann', 'pot', 2)];
  const shop = shopWith([], [product('pot'), product('seed')], { carted });
  const found = asked(shop, { kind: 'left_in_cart', by: 'person', days: 60 });
  expect(skus(found)).toEqual(['pot', 'seed']);
  expect(figures(found)[0]).toBe('put into the cart 2 days ago');
});

test('what is bought after something no more often than by chance does not follow it', () => {
  const lines = ['a', 'b', 'c', 'd'].flatMap((person) => [
    bought(person, 'seed', 100),
    bought(person, 'string', 50),
  ]);
  const shop = shopWith(lines, [product('seed'), product('string')]);
  expect(skus(asked(shop, { kind: 'bought_next', seed: 'named', skus: ['seed'] }))).toEqual([]);
});
