import { CATEGORIES, type Category, type DemoProduct } from './catalog';
import type { Random } from './random';

/** What somebody likes: one of five families, one of eight makers, and something bought again and again. */
export interface Taste {
  family: number;
  maker: number;
  staple: DemoProduct | undefined;
}

/** Each category has forty products: eight makers of five families each. */
const FAMILIES = 5;
const MAKERS = 8;
/** What is bought after seeds and bulbs: a pot to put them in, a tool, the book. */
const NEXT: Partial<Record<Category, Category>> = {
  Seeds: 'Pots',
  Bulbs: 'Pots',
  Pots: 'Tools',
  Tools: 'Books',
};
/** What goes into the same parcel. */
const BESIDE: Partial<Record<Category, Category>> = {
  Seeds: 'Tools',
  Bulbs: 'Tools',
  Pots: 'Seeds',
  Books: 'Seeds',
};

/** How much each category is wanted in a month, from January on. */
const SEASON: Record<Category, string> = {
  Seeds: '356543222223',
  Bulbs: '111111136651',
  Pots: '224432222212',
  Tools: '233322222223',
  Books: '422111112346',
  Workshops: '122211112211',
};

export function tasteOf(products: readonly DemoProduct[], r: Random): Taste {
  const family = r.whole(0, FAMILIES - 1);
  const maker = r.whole(0, MAKERS - 1);
  const seeds = products.filter(({ category }) => category === 'Seeds' || category === 'Bulbs');
  const staple = seeds[Math.floor(seeds.length * r.next() ** 1.5)];
  return { family, maker, staple: r.chance(0.6) ? staple : undefined };
}

function categoryIn(month: number, r: Random): Category {
  const weights = CATEGORIES.map((category) => Number(SEASON[category][month] ?? 1));
  let left = r.next() * weights.reduce((sum, weight) => sum + weight, 0);
  return CATEGORIES.find((_, i) => (left -= weights[i] ?? 0) < 0) ?? 'Seeds';
}

/** The same place of another category: what goes with it. */
function counterpart(
  { sku, category }: DemoProduct,
  to: Partial<Record<Category, Category>>,
  products: readonly DemoProduct[],
): DemoProduct | undefined {
  const other = to[category as Category];
  const place = (Number(sku.slice(2)) - 101) % (FAMILIES * MAKERS);
  return other && products.filter((one) => one.category === other)[place];
}

/** What somebody puts into the cart at a time: by taste and season, with what was there or before in mind. */
export function chosen(
  products: readonly DemoProduct[],
  taste: Taste,
  {
    at,
    inCart,
    before,
  }: { at: number; inCart: readonly DemoProduct[]; before: readonly DemoProduct[] },
  r: Random,
): DemoProduct {
  const [last] = inCart.slice(-1);
  const beside = last && counterpart(last, BESIDE, products);
  if (beside && !inCart.includes(beside) && r.chance(0.35)) return beside;
  if (inCart.length === 0 && taste.staple && r.chance(0.6)) return taste.staple;
  const [earlier] = before.length > 0 ? [r.pick([...before])] : [];
  const next = earlier && counterpart(earlier, NEXT, products);
  if (next && !inCart.includes(next) && !before.includes(next) && r.chance(0.4)) return next;
  const category = categoryIn(new Date(at).getUTCMonth(), r);
  const all = products.filter((one) => one.category === category);
  const liked = all.filter((_, place) => {
    const [maker, family] = [Math.floor(place / FAMILIES), place % FAMILIES];
    return family === taste.family || maker === taste.maker;
  });
  // Few things are bought much, and most a little.
  const some = r.chance(0.75) ? liked : all;
  return some[Math.floor(some.length * r.next() ** 1.7)] ?? r.pick([...products]);
}
