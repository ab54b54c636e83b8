import {
  bestOf,
  halves,
  hiddenOrders,
  leftOut,
  otherWeights,
  someOf,
  trial,
  type Activity,
  type Rule,
} from '.';
import { seeded } from './random';
import { ago, bought, NOW, people, product, rule, type TestLine } from './testing';

const PAIRS = 12;
const SKUS = Array.from({ length: PAIRS }, (_, i) => [`s${i}`, `p${i}`]).flat();
const catalog = SKUS.map((sku) => product(sku, { added_at: '2020-01-01' }));
const together: Rule = {
  ...rule(
    { kind: 'bought_next', seed: 'latest_order' },
    { kind: 'best_sellers', days: 90, by: 'units' },
  ),
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
};

/** People who buy a seed, and some weeks later the pot that goes with it. */
function past(count: number): Activity[] {
  const random = seeded(3);
  const lines = Array.from({ length: count }, (_, i): TestLine[] => {
    const pair = Math.floor(random() * PAIRS);
    const day = 20 + Math.floor(random() * 200);
    return [bought(`m${i}`, `s${pair}`, day + 30), bought(`m${i}`, `p${pair}`, day)];
  });
  return people(lines.flat());
}

function tried(activity: Activity[], rules: Rule[], times = 60) {
  const run = trial(rules, hiddenOrders(activity), activity, catalog, { times });
  let step = run.next();
  const seen: number[] = [];
  while (!step.done) {
    seen.push(step.value);
    step = run.next();
  }
  return { result: step.value, seen };
}

test('a rule that knows what follows beats best sellers, with intervals clear of each other', () => {
  const { result, seen } = tried(past(240), [together]);
  expect(result.people).toBe(240);
  expect(seen.at(-1)).toBe(240);
  expect([...seen].sort((a, b) => a - b)).toEqual(seen);
  const [one] = result.rules;
  expect(one?.hits.low).toBeGreaterThan(result.best_sellers.hits.high);
  expect(one?.more.low).toBeGreaterThan(0.2);
  expect(one?.rank.mean).toBeGreaterThan(result.best_sellers.rank.mean);
  expect(result.at_random.hits.mean).toBeLessThan(0.5);
});

test('on a past whose products were shuffled it does not', () => {
  const random = seeded(9);
  const shuffled = past(240).map((one) => ({
    ...one,
    bought: one.bought.map((line) => ({
      ...line,
      sku: SKUS[Math.floor(random() * SKUS.length)] ?? '',
    })),
  }));
  const { result } = tried(shuffled, [together]);
  expect(result.rules[0]?.more.low).toBeLessThanOrEqual(0);
});

test('nothing of the future is known: what happens later changes no answer', () => {
  const activity = past(80);
  const cut = ago(120);
  const early = hiddenOrders(activity).filter(({ at }) => at < cut);
  const without = activity.map((one) => ({
    ...one,
    bought: one.bought.filter(({ at }) => at < cut),
  }));
  // Somebody buys everything of one product tomorrow, and a new product comes.
  const with2 = [
    ...activity,
    ...people(Array.from({ length: 50 }, (_, i) => bought(`z${i}`, 's0', 1, { quantity: 90 }))),
  ];
  const of = (all: Activity[], more: object[] = []) => {
    const run = trial([together], early, all, [...catalog, ...more] as never, { times: 400 });
    let step = run.next();
    while (!step.done) step = run.next();
    return step.value;
  };
  const late = product('new', { added_at: new Date(NOW).toISOString() });
  expect(of(with2, [late])).toEqual(of(without));
});

test('people with one order have nothing hidden; some of many are always the same', () => {
  const activity = people([bought('a', 's0', 5), bought('b', 's0', 9), bought('b', 'p0', 2)]);
  expect(hiddenOrders(activity)).toEqual([
    { person: 'b', country: undefined, at: ago(2), skus: ['p0'] },
  ]);
  const many = Array.from({ length: 50 }, (_, i) => ({ person: `q${i}` }));
  expect(someOf(many, 10)).toEqual(someOf([...many].reverse(), 10));
  expect(someOf(many, 10)).toHaveLength(10);
});

test('weights are found on the earlier part of the past and hold on the later', () => {
  const activity = past(240);
  const [earlier, later] = halves(hiddenOrders(activity));
  expect(Math.max(...earlier.map(({ at }) => at))).toBeLessThan(
    Math.min(...later.map(({ at }) => at)),
  );
  const [next, sellers] = together.steps;
  if (!next || !sellers) throw new Error('two steps');
  const mix: Rule = {
    ...together,
    mixed: true,
    steps: [{ ...next, weight: 0 }, { take: 4, weight: 4, step: { kind: 'at_random' } }, sellers],
  };
  const run = (rules: Rule[], hidden: typeof earlier) => {
    const all = trial(rules, hidden, activity, catalog, { times: 20 });
    let step = all.next();
    while (!step.done) step = all.next();
    return step.value;
  };
  const candidates = [mix, ...otherWeights(mix)];
  const best = bestOf(candidates, run(candidates, earlier)) ?? mix;
  expect(best.steps[0]?.weight).toBeGreaterThan(0);
  const { rules } = run([mix, best], later);
  expect(rules[1]?.rank.mean).toBeGreaterThan(rules[0]?.rank.mean ?? 1);
});

test('what somebody looked at until the morning of the order counts, however few times indexes are made', () => {
  // Everybody looks at what they order, on the day before; the orders are of 200 different days.
  const activity = Array.from({ length: 200 }, (_, i): Activity => {
    const order = 10 + i;
    const sku = SKUS[i % SKUS.length] ?? '';
    const [one] = people([bought(`m${i}`, 's0', order + 40), bought(`m${i}`, sku, order)]);
    return {
      ...(one ?? { person: `m${i}`, bought: [] }),
      // What is looked at on the day itself is hidden with the order.
      viewed: [
        { sku, at: ago(order + 1) },
        { sku: SKUS[(i + 5) % SKUS.length] ?? '', at: ago(order) },
      ],
    };
  });
  const looked = { ...rule({ kind: 'looked_at', days: 7 }), number: 1 };
  for (const times of [400, 4]) {
    const { result } = tried(activity, [looked], times);
    expect(result.rules[0]?.hits.mean).toBeGreaterThan(0.95);
  }
});

test('the members of a segment are known, and what is left out is said', () => {
  const where = 'product.price > person.points';
  expect(leftOut({ ...together, exclude: { ...together.exclude, shown_mails: 2, where } })).toEqual(
    [
      'whether products were in stock then',
      'what lay in the cart',
      'what the last emails showed',
      'the formula of what is excluded, as far as it asks about the person',
    ],
  );
  const plainRule = { ...together, exclude: { out_of_stock: false, in_cart: false } };
  expect(
    leftOut({ ...plainRule, exclude: { ...plainRule.exclude, where: 'product.price > 9' } }),
  ).toEqual([]);
});
