import { bestFirst, kept, listOf, numberOf, textOf, type Scored, type Shop } from './define';
import { WordIndex } from './words';

/** How much each likeness counts, from 0 on. */
export interface Weights {
  words: number;
  category: number;
  brand: number;
  tags: number;
  price: number;
}

/** So many like each product are kept; more are looked for when those do not suffice. */
export const FIRST_LIKE = 60;
const NONE: readonly number[] = [];

/** Names as numbers from 1 on; 0 is no name. */
class Numbers {
  private readonly known = new Map<string, number>();
  of(name: string): number {
    if (name === '') return 0;
    const number = this.known.get(name) ?? this.known.size + 1;
    this.known.set(name, number);
    return number;
  }
}

/** All that likeness is reckoned from, by the place of a product in the shop; made once for a shop. */
interface Index {
  words: WordIndex;
  category: Int32Array;
  brand: Int32Array;
  /** The logarithm of the price, base 2; NaN without one. */
  price: Float64Array;
  tags: readonly (readonly number[])[];
  places: ReadonlyMap<string, number>;
  /** Places of the products of each category. */
  byCategory: ReadonlyMap<number, readonly number[]>;
  /** Room for sums, by place; all 0 between questions. */
  sums: Float64Array;
  /** Room for scores, in the order in which products were met. */
  scores: Float64Array;
}

function indexOf({ products }: Shop): Index {
  const records = products.map(({ record }) => record);
  const [categories, brands, tags] = [new Numbers(), new Numbers(), new Numbers()];
  const category = Int32Array.from(records, (one) => categories.of(textOf(one, 'category')));
  const byCategory = new Map<number, number[]>();
  category.forEach((number, place) => {
    const known = byCategory.get(number);
    if (known) known.push(place);
    else if (number > 0) byCategory.set(number, [place]);
  });
  return {
    words: new WordIndex(records),
    category,
    brand: Int32Array.from(records, (one) => brands.of(textOf(one, 'brand'))),
    price: Float64Array.from(records, (one) => {
      const price = numberOf(one, 'price');
      return price > 0 ? Math.log2(price) : Number.NaN;
    }),
    tags: records.map((one) => listOf(one, 'tags').map((tag) => tags.of(tag))),
    places: new Map(products.map(({ sku }, place) => [sku, place])),
    byCategory,
    sums: new Float64Array(products.length),
    scores: new Float64Array(products.length),
  };
}

/** The part of the tags of two that both have (Jaccard). */
function tagsInCommon(one: readonly number[], other: readonly number[]): number {
  if (one.length === 0 || other.length === 0) return 0;
  let both = 0;
  for (const tag of one) if (other.includes(tag)) both++;
  return both / (one.length + other.length - both);
}

/** How alike two products are but for their words, each likeness from 0 to 1, summed by weight. */
function otherLikeness(index: Index, a: number, b: number, weights: Weights): number {
  const { category, brand, price, tags } = index;
  const own = category[a] ?? 0;
  const made = brand[a] ?? 0;
  // 1 for the same price, ½ for twice or half of it; of no price nothing is near.
  const apart = Math.abs((price[a] ?? 0) - (price[b] ?? 0));
  return (
    (own > 0 && own === category[b] ? weights.category : 0) +
    (made > 0 && made === brand[b] ? weights.brand : 0) +
    (weights.tags > 0 ? weights.tags * tagsInCommon(tags[a] ?? NONE, tags[b] ?? NONE) : 0) +
    (apart >= 0 ? weights.price * 2 ** -apart : 0)
  );
}

/**
 * What is most like a product, the best first, from 0 to 1: by TF-IDF cosine of the words, category, brand,
 * tags and nearness of price. Whoever shares neither a word nor the category is not like it. Gives the best `most`.
 */
export function mostLike(
  shop: Shop,
  sku: string,
  weights: Weights,
  most = FIRST_LIKE,
): readonly Scored[] {
  const index = kept(shop, 'likeness', () => indexOf(shop));
  const { words, sums, scores } = index;
  const total = weights.words + weights.category + weights.brand + weights.tags + weights.price;
  const place = index.places.get(sku);
  if (place === undefined || total === 0) return [];
  const near: number[] = [];
  words.cosines(place, sums, (other) => near.push(other));
  if (weights.category > 0)
    for (const other of index.byCategory.get(index.category[place] ?? 0) ?? NONE)
      if (sums[other] === 0) near.push(other);
  near.forEach((other, i) => {
    const cosine = sums[other] ?? 0;
    sums[other] = 0;
    scores[i] =
      other === place
        ? 0
        : (weights.words * cosine + otherLikeness(index, place, other, weights)) / total;
  });
  // Only what can be among the best is put in order.
  const least = scores.slice(0, near.length).sort()[near.length - most] ?? 0;
  const best: Scored[] = [];
  near.forEach((other, i) => {
    const product = shop.products[other];
    const score = scores[i] ?? 0;
    if (product && score >= least) best.push({ product, score });
  });
  return [...bestFirst(best)].slice(0, most);
}
