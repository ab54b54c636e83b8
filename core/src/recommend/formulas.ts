import {
  compile,
  evaluate,
  newContext,
  parsedFormula,
  walk,
  type Evaluate,
  type Fields,
} from '../formula';
import { contextFor } from '../render';
import { kept, type Product, type Shop } from './define';

const NEVER = ['catalog', 'feeds', 'coupon', 'event', 'links', 'own', 'views', 'emails'];
/** What the formula of a pool cannot read: it is asked of products alone, whoever the person is. */
export const NOT_IN_POOL: readonly string[] = [
  'picks',
  ...NEVER,
  'person',
  'cart',
  'order',
  'orders',
];
/** What an exclusion cannot read. */
export const NOT_IN_EXCLUSION: readonly string[] = ['picks', ...NEVER];

/** What is wrong with a formula over products, in a sentence; null where it is sound. */
export function formulaProblem(formula: string, without: readonly string[]): string | null {
  const parsed = parsedFormula(formula);
  if (!parsed.ok) return `It cannot be read: ${parsed.error.message}`;
  const names = new Set<string>();
  walk(parsed.value, (node) => {
    if (node.type === 'name') names.add(node.name);
  });
  const other = without.find((name) => names.has(name));
  if (other === undefined) return null;
  if (other === 'picks') return 'It cannot use picks, because picks are made from it.';
  return `It cannot read “${other}”. A field of the product is written product.price.`;
}

/**
 * Asks a formula of one product after the other, on the day that it is for the person, else in the shop. One that cannot
 * be read holds for none.
 */
export function holdsFor(
  shop: Shop,
  formula: string,
  now: number,
  record: Fields = {},
): (product: Product) => boolean {
  const compiled = kept(shop, `formula ${formula}`, (): Evaluate | null => {
    const parsed = parsedFormula(formula);
    return parsed.ok ? compile(parsed.value) : null;
  });
  if (!compiled) return () => false;
  const beside = { shop: shop.record, ...record };
  const { locale, clock } = contextFor(beside, { asOf: new Date(now) });
  return ({ record: product }) => {
    const context = newContext({ ...beside, product }, locale);
    context.clock = clock;
    return evaluate(compiled, context) === true;
  };
}

/** The day that it is in a shop, for keeping what holds for a day; `now` in milliseconds. */
export const dayInShop = (shop: Shop, now: number): number =>
  contextFor({ shop: shop.record }, { asOf: new Date(now) })
    .locale.day(new Date(now))
    .getTime();
