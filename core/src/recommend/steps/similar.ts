import { z } from 'zod';
import {
  bestFirst,
  candidatesOf,
  defineStep,
  kept,
  listOf,
  nameOf,
  numberOf,
  textOf,
  type Product,
  type Scored,
  type Shop,
} from '../define';
import { ownOf, Seed, SEED_FIELDS, seedsOf, Skus } from '../seeds';
import { WordIndex } from '../words';

const Weight = z.number().min(0).max(10);
const Weights = z.strictObject({
  words: Weight,
  category: Weight,
  brand: Weight,
  tags: Weight,
  price: Weight,
});
type Weights = z.infer<typeof Weights>;
const EVEN: Weights = { words: 3, category: 2, brand: 1, tags: 1, price: 1 };

const schema = z.strictObject({
  kind: z.literal('similar'),
  seed: Seed,
  skus: Skus.optional(),
  /** How much each likeness counts. */
  weights: Weights,
});

/** The part of the tags of two that both have (Jaccard). */
function tagsInCommon(one: readonly string[], other: readonly string[]): number {
  if (one.length === 0 || other.length === 0) return 0;
  let both = 0;
  for (const tag of one) if (other.includes(tag)) both++;
  return both / (one.length + other.length - both);
}

/** 1 for the same price, ½ for twice or half of it. */
function priceNearness(one: number, other: number): number {
  return one > 0 && other > 0 ? 2 ** -Math.abs(Math.log2(one / other)) : 0;
}

/** So many like each product are kept. */
const MOST_KEPT = 60;

/** What products are compared by, read once. */
interface Features {
  product: Product;
  category: string;
  brand: string;
  tags: readonly string[];
  price: number;
}

const featuresOf = (product: Product): Features => ({
  product,
  category: textOf(product.record, 'category'),
  brand: textOf(product.record, 'brand'),
  tags: listOf(product.record, 'tags'),
  price: numberOf(product.record, 'price'),
});

const same = (one: string, other: string): number => (one !== '' && one === other ? 1 : 0);

/** How alike two products are, from 0 to 1. */
function likeness(a: Features, b: Features, cosine: number, w: Weights, total: number): number {
  return (
    (w.words * cosine +
      w.category * same(a.category, b.category) +
      w.brand * same(a.brand, b.brand) +
      w.tags * tagsInCommon(a.tags, b.tags) +
      w.price * priceNearness(a.price, b.price)) /
    total
  );
}

/** All that likeness is reckoned from, made once for a shop. */
interface Index {
  words: WordIndex;
  features: readonly Features[];
  places: ReadonlyMap<string, number>;
  /** Places of the products of each category. */
  byCategory: ReadonlyMap<string, readonly number[]>;
  /** Room for sums, by place; all 0 between questions. */
  sums: Float64Array;
}

function indexOf({ products }: Shop): Index {
  const features = products.map(featuresOf);
  const byCategory = new Map<string, number[]>();
  features.forEach(({ category }, place) => {
    const known = byCategory.get(category);
    if (category === '') return;
    if (known) known.push(place);
    else byCategory.set(category, [place]);
  });
  return {
    words: new WordIndex(products.map(({ record }) => record)),
    features,
    places: new Map(products.map(({ sku }, place) => [sku, place])),
    byCategory,
    sums: new Float64Array(products.length),
  };
}

/** What is most like a product, the best first. Whoever shares neither a word nor the category is not like it. */
function likeOf(shop: Shop, seed: Product, weights: Weights): Scored[] {
  const { words, features, places, byCategory, sums } = kept(shop, 'likeness', () => indexOf(shop));
  const total = weights.words + weights.category + weights.brand + weights.tags + weights.price;
  const place = places.get(seed.sku) ?? -1;
  const own = features[place];
  if (!own || total === 0) return [];
  const near: number[] = [];
  words.cosines(place, sums, (other) => near.push(other));
  if (weights.category > 0)
    for (const other of byCategory.get(own.category) ?? []) if (sums[other] === 0) near.push(other);
  const all: Scored[] = [];
  for (const other of near) {
    const one = features[other];
    const cosine = sums[other] ?? 0;
    sums[other] = 0;
    if (one && other !== place)
      all.push({ product: one.product, score: likeness(own, one, cosine, weights, total) });
  }
  const found: Scored[] = [];
  for (const one of bestFirst(all)) {
    found.push(one);
    if (found.length === MOST_KEPT) break;
  }
  return found;
}

export const similar = defineStep({
  kind: 'similar',
  name: 'Similar',
  description: 'What is like something: by category, brand, tags, price and words.',
  schema,
  make: () => ({ kind: 'similar' as const, seed: 'cart' as const, weights: EVEN }),
  fields: [...SEED_FIELDS, { control: 'weights', path: 'weights', before: 'counting' }],
  *candidates(step, shop, asked) {
    const seeds = seedsOf(step, shop, asked);
    const own = new Set(seeds);
    const best = new Map<string, Scored & { to: string }>();
    for (const sku of seeds) {
      const seed = shop.bySku.get(sku);
      if (!seed) continue;
      const key = `like ${sku} ${Object.values(step.weights).join(' ')}`;
      for (const { product, score } of kept(shop, key, () => likeOf(shop, seed, step.weights))) {
        const before = best.get(product.sku);
        if (own.has(product.sku) || (before && before.score >= score)) continue;
        best.set(product.sku, { product, score, to: nameOf(seed) });
      }
    }
    yield* candidatesOf(bestFirst(best.values()), ({ score, to }) => ({
      figure: `${Math.round(score * 100)} % like ${to}`,
      reason: `Like ${ownOf(step.seed, to)}`,
    }));
  },
});
