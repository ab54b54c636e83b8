import { z } from 'zod';
import { bestFirst, nameOf, type Asked, type Scored, type Shop, type StepField } from './define';
import { stretchOf } from './history';
import { dayOf, type Lines } from './lines';

/** What a step sets out from. */
export const Seed = z.enum(['cart', 'latest_order', 'all_orders', 'looked_at', 'named']);
export type Seed = z.infer<typeof Seed>;

export const Skus = z.array(z.string().max(200)).max(50);

/** What was looked at so many days ago at most is lately. */
const LATELY = 30;
/** A step sets out from so many products, the latest. */
const MOST_SEEDS = 40;

/** SKUs of some lines of a person, the latest first, each once; none from before `since` (days). */
export function latestOf(
  shop: Shop,
  lines: Lines,
  person: string,
  { since = 0, now = Number.POSITIVE_INFINITY }: { since?: number; now?: number } = {},
): string[] {
  const { own: history } = shop;
  const [from, to] = stretchOf(history, lines, person);
  const found = new Set<string>();
  for (let i = to - 1; i >= from && found.size < MOST_SEEDS; i--) {
    const day = lines.day[i] ?? 0;
    if (day < since) break;
    if (day <= now) found.add(history.products.all[lines.product[i] ?? 0] ?? '');
  }
  return [...found];
}

/** The products that a step sets out from, for somebody. */
export function seedsOf(
  { seed, skus = [] }: { seed: Seed; skus?: readonly string[] | undefined },
  shop: Shop,
  asked: Asked,
): readonly string[] {
  const { bought, viewed } = shop.own;
  switch (seed) {
    case 'cart':
      return asked.cart;
    case 'latest_order':
      return asked.latest;
    case 'all_orders':
      return latestOf(shop, bought, asked.person);
    case 'looked_at':
      return latestOf(shop, viewed, asked.person, { since: dayOf(asked.now) - LATELY });
    case 'named':
      return skus;
  }
}

/** What stands beside a seed, in the list of the seed. */
interface Beside {
  /** Its number in the history. */
  product: number;
  score: number;
}

/**
 * Candidates, the best first. Only the first part of each list is kept and merged; the lists as a whole
 * are asked for when somebody goes on beyond it, because a pool or an exclusion let too few through.
 */
export function* bestThenRest<T extends Scored>(
  find: (isWhole: boolean) => Iterable<T>,
): Generator<T> {
  const given = new Set<string>();
  for (const one of bestFirst(find(false))) {
    given.add(one.product.sku);
    yield one;
  }
  for (const one of bestFirst(find(true))) if (!given.has(one.product.sku)) yield one;
}

/** The best that the lists of some seeds put forward, each product once, with the name of the seed; none of the seeds. */
export function bestBeside<T extends Beside>(
  shop: Shop,
  seeds: readonly string[],
  listOf: (seed: number) => readonly T[],
): Iterable<Scored & { beside: T; seed: string }> {
  const best = new Map<number, Scored & { beside: T; seed: string }>();
  const own = new Set(seeds);
  for (const sku of seeds) {
    const number = shop.history.products.find(sku);
    if (number === undefined) continue;
    const known = shop.bySku.get(sku);
    const seed = known ? nameOf(known) : (shop.history.namesInOrders.get(sku) ?? sku);
    for (const beside of listOf(number)) {
      const product = shop.byNumber[beside.product];
      const before = best.get(beside.product);
      if (!product || own.has(product.sku) || (before && before.score >= beside.score)) continue;
      best.set(beside.product, { product, score: beside.score, beside, seed });
    }
  }
  return best.values();
}

/** Whether what a step sets out from is a person's own: in their cart or bought. */
export const isOwn = (seed: Seed): boolean => seed !== 'named' && seed !== 'looked_at';

/** The question for the seed, and the one for the products that are named. */
export const SEED_FIELDS: readonly StepField[] = [
  {
    control: 'choice',
    path: 'seed',
    before: 'with',
    options: [
      { value: 'cart', label: 'the cart' },
      { value: 'latest_order', label: 'the latest order' },
      { value: 'all_orders', label: 'all orders' },
      { value: 'looked_at', label: 'recently viewed products' },
      { value: 'named', label: 'products by name' },
    ],
  },
  { control: 'products', path: 'skus', before: '', when: { path: 'seed', is: 'named' } },
];
