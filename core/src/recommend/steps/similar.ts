import { z } from 'zod';
import {
  candidatesOf,
  defineStep,
  kept,
  listOf,
  nameOf,
  numberOf,
  ranked,
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
  const both = one.filter((tag) => other.includes(tag)).length;
  return both / (one.length + other.length - both);
}

/** 1 for the same price, ½ for twice or half of it. */
function priceNearness(one: number, other: number): number {
  return one > 0 && other > 0 ? 2 ** -Math.abs(Math.log2(one / other)) : 0;
}

/** So many like each product are kept. */
const MOST_KEPT = 60;

/** How alike two products are, from 0 to 1. */
function likeness(a: Product, b: Product, cosine: number, w: Weights): number {
  const same = (name: string) => {
    const value = textOf(a.record, name);
    return value !== '' && value === textOf(b.record, name) ? 1 : 0;
  };
  const total = w.words + w.category + w.brand + w.tags + w.price;
  if (total === 0) return 0;
  return (
    (w.words * cosine +
      w.category * same('category') +
      w.brand * same('brand') +
      w.tags * tagsInCommon(listOf(a.record, 'tags'), listOf(b.record, 'tags')) +
      w.price * priceNearness(numberOf(a.record, 'price'), numberOf(b.record, 'price'))) /
    total
  );
}

/** What is most like a product, the best first. */
function likeOf(shop: Shop, seed: Product, weights: Weights): Scored[] {
  const index = kept(shop, 'words', () => new WordIndex(shop.products.map(({ record }) => record)));
  const places = kept(
    shop,
    'places',
    () => new Map(shop.products.map(({ sku }, i) => [sku, i] as const)),
  );
  const cosines = index.cosines(places.get(seed.sku) ?? -1);
  const byCategory = kept(shop, 'by category', () => {
    const all = new Map<string, Product[]>();
    for (const product of shop.products) {
      const category = textOf(product.record, 'category');
      const known = all.get(category);
      if (known) known.push(product);
      else all.set(category, [product]);
    }
    return all;
  });
  // Whoever shares neither a word nor the category is not like it.
  const near = new Set<Product>(
    weights.category > 0 ? byCategory.get(textOf(seed.record, 'category') || ' ') : [],
  );
  for (const place of cosines.keys()) {
    const product = shop.products[place];
    if (product) near.add(product);
  }
  near.delete(seed);
  const all = [...near].map((product) => ({
    product,
    score: likeness(seed, product, cosines.get(places.get(product.sku) ?? -1) ?? 0, weights),
  }));
  return ranked(all).slice(0, MOST_KEPT);
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
    yield* candidatesOf(ranked([...best.values()]), ({ score, to }) => ({
      figure: `${Math.round(score * 100)} % like ${to}`,
      reason: `Like ${ownOf(step.seed, to)}`,
    }));
  },
});
