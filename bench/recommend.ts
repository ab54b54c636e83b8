import Database from 'better-sqlite3';
import type { Fields } from '@carafe/core/formula';
import {
  historyOf,
  pairsOf,
  pick,
  repeatsOf,
  Rule,
  shopOf,
  tasteOf,
  withActivity,
  type Activity,
  type Asked,
  type History,
} from '@carafe/core/recommend';

const PEOPLE = 100_000;
const PRODUCTS = 10_000;
const LINES_EACH = 10;
const NOW = Date.UTC(2026, 10, 24);
const DAY = 86_400_000;
/** People are of groups that like some products more than others. */
const GROUPS = 50;

let state = 42;
function chance(below: number): number {
  state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
  return Math.floor((state / 2 ** 32) * below);
}

/** A million lines of orders: of each person's ten, most of what their group likes. */
function people(): Activity[] {
  return Array.from({ length: PEOPLE }, (_, p) => {
    const group = p % GROUPS;
    const bought = Array.from({ length: LINES_EACH }, () => {
      const own = chance(10) < 7;
      const size = PRODUCTS / GROUPS;
      const product = own ? group * size + chance(size) : chance(PRODUCTS);
      return { sku: `S${product}`, at: NOW - chance(400) * DAY, quantity: 1, price: 5 };
    });
    return { person: `p${p}@post.example`, country: p % 3 ? 'GB' : 'DE', bought };
  });
}

const catalog = Array.from(
  { length: PRODUCTS },
  (_, i) =>
    ({
      ...{ sku: `S${i}`, name: `Poppy no. ${i % 900} of ${i % 70}`, price: 2 + (i % 90) },
      ...{ category: `C${i % 40}`, brand: `B${i % 12}`, tags: [`T${i % 9}`], in_stock: i % 12 > 0 },
      ...{ added_at: new Date(NOW - (i % 700) * DAY), description: `Grown on row ${i % 300}.` },
    }) as unknown as Fields,
);

const RULE = Rule.parse({
  ...{ name: 'all', label: 'All', number: 6 },
  steps: [
    { take: 2, step: { kind: 'bought_together', seed: 'latest_order' } },
    { take: 2, step: { kind: 'bought_next', seed: 'latest_order' } },
    {
      take: 2,
      step: {
        kind: 'similar',
        seed: 'latest_order',
        weights: { words: 3, category: 2, brand: 1, tags: 1, price: 1 },
      },
    },
    { take: 2, step: { kind: 'due_again' } },
    { take: 6, step: { kind: 'best_sellers', days: 90, by: 'buyers', half_life: 30 } },
  ],
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
  spread: { by: 'category', most: 2 },
});

const NOBODY = { person: 'nobody@post.example' };

function timed<T>(work: () => T): { took: number; result: T } {
  const start = performance.now();
  const result = work();
  return { took: performance.now() - start, result };
}

/** The pairs of some products as SQLite reckons them: how many people bought both. */
function pairsBySql(history: History, products: readonly number[]) {
  const db = new Database(':memory:');
  db.exec(
    'CREATE TABLE bought (person INTEGER, product INTEGER, PRIMARY KEY (person, product)) WITHOUT ROWID',
  );
  const put = db.prepare('INSERT OR IGNORE INTO bought VALUES (?, ?)');
  const { starts, product } = history.bought;
  db.transaction(() => {
    for (let p = 0; p < starts.length - 1; p++)
      for (let i = starts[p] ?? 0; i < (starts[p + 1] ?? 0); i++) put.run(p, product[i]);
  })();
  db.exec('CREATE INDEX by_product ON bought (product, person)');
  const counted = db.prepare<[number], { product: number; people: number }>(
    `SELECT other.product, COUNT(*) AS people FROM bought AS one
     JOIN bought AS other ON other.person = one.person AND other.product <> one.product
     WHERE one.product = ? GROUP BY other.product HAVING people >= 2`,
  );
  return timed(() => products.map((one) => counted.all(one)));
}

export interface RecommendResult {
  /** Milliseconds. */
  indexes: number;
  /** The lists of every product, which are made when they are first asked for. */
  lists: number;
  taste: number;
  oneOrder: number;
  query: { p50: number; p99: number };
  /** The first queries after the indexes were made. */
  first: { p50: number; p99: number };
  everybody: number;
  pairs: { own: number; sql: number; same: boolean };
  megabytes: number;
}

/** Measures recommendation over a million lines, ten thousand products, a hundred thousand people. */
function benchRecommend(): RecommendResult {
  const activity = people();
  const built = timed(() => {
    const history = historyOf(activity);
    const shop = shopOf(history, catalog);
    // What queries share is made by the first of them.
    pick(RULE, shop, { ...NOBODY, cart: [], latest: ['S1'], now: NOW });
    repeatsOf(history);
    return { history, shop };
  });
  const { history, shop } = built.result;
  // What goes with each product, what follows it, what is like it: made when it is first asked for.
  const lists = timed(() => {
    for (const { sku } of shop.products)
      pick(RULE, shop, { ...NOBODY, cart: [sku], latest: [sku], now: NOW });
  }).took;
  const asked = (p: number): Asked => ({
    ...{ person: `p${p}@post.example`, cart: [], now: NOW },
    latest: (activity[p]?.bought ?? []).slice(0, 3).map(({ sku }) => sku),
  });
  // What is compiled first is not what is measured.
  for (let p = 0; p < 2_000; p++) pick(RULE, shop, asked((p * 13) % PEOPLE));
  const times = Array.from({ length: 5_000 }, (_, i) => {
    const who = asked((i * 17) % PEOPLE);
    return timed(() => pick(RULE, shop, who)).took;
  }).sort((a, b) => a - b);
  // The same of indexes that were made just now: the lists of the seeds are made by those who ask first.
  const fresh = shopOf(historyOf(activity), catalog);
  pick(RULE, fresh, { ...NOBODY, cart: [], latest: ['S1'], now: NOW });
  const firsts = Array.from({ length: 2_000 }, (_, i) => {
    const who = asked((i * 29) % PEOPLE);
    return timed(() => pick(RULE, fresh, who)).took;
  }).sort((a, b) => a - b);
  const everybody = timed(() => {
    for (let p = 0; p < PEOPLE; p++) pick(RULE, shop, asked(p));
  }).took;
  const [first] = activity;
  const oneOrder = timed(() =>
    withActivity(history, first ? [{ ...first, bought: first.bought.slice(1) }] : []),
  ).took;
  const some = Array.from({ length: 300 }, (_, i) => history.products.find(`S${i * 33}`) ?? 0);
  const own = timed(() => some.map((product) => pairsOf(history, product)));
  const sql = pairsBySql(history, some);
  const same = own.result.every((pairs, i) => {
    const counted = new Map(sql.result[i]?.map(({ product, people: n }) => [product, n]));
    return pairs.every(({ product, people: n }) => counted.get(product) === n);
  });
  const taste = timed(() => tasteOf(history)).took;
  return {
    ...{ indexes: built.took, lists, taste, oneOrder, everybody },
    query: { p50: times[2_500] ?? 0, p99: times[4_950] ?? 0 },
    first: { p50: firsts[1_000] ?? 0, p99: firsts[1_980] ?? 0 },
    pairs: { own: own.took, sql: sql.took, same },
    megabytes: process.resourceUsage().maxRSS / 1024,
  };
}

console.log(JSON.stringify(benchRecommend()));
