import { quote } from '../formula';
import type { Loop } from '../template/parts';
import { formulaSentence, isMembers, isSentence } from './sentence';

/** So many products are picked by hand at most: formulas are bounded. */
export const MOST_PICKS = 24;

const FIELD = /^(?:[\p{L}_][\p{L}\p{Nd}_]*\.)?sku$/u;

/** The SKUs that a loop names one by one, in their order; null where it is filled by something else. */
export function picksOf({ where }: Pick<Loop, 'where'>): string[] | null {
  if (where === undefined) return null;
  const [clause, ...more] = formulaSentence(where)?.parts ?? [];
  if (!clause || more.length > 0 || isSentence(clause) || isMembers(clause)) return null;
  return clause.comparison === 'one_of' && FIELD.test(clause.field) ? clause.values : null;
}

/** A loop over the products that are named, in the order in which they are. */
export function pickedLoop(loop: Loop, skus: readonly string[]): Loop {
  const { where: _, sort: _order, at_most: _most, ...rest } = loop;
  const named = skus.slice(0, MOST_PICKS);
  if (named.length === 0) return rest;
  const sku = `${loop.as}.sku`;
  const place = named.reduceRight(
    (other, one, i) => `if(${sku} = ${quote(one)}, ${i + 1}, ${other})`,
    String(named.length + 1),
  );
  return {
    ...rest,
    where: `${rest.as}.${productsNamed(named)}`,
    sort: { by: place, direction: 'ascending' },
  };
}

/** What narrows a catalog down while products are looked for; blank for what does not. */
export interface ProductsWanted {
  category: string;
  /** Leaves out what is out of stock. */
  inStock: boolean;
  /** The highest price, in the currency of the catalog. */
  upTo: number | null;
}

/** The formula over a product that holds for what is wanted; blank where everything is. */
export function productsWanted({ category, inStock, upTo }: ProductsWanted): string {
  return [
    ...(category.trim() === '' ? [] : [`category = ${quote(category.trim())}`]),
    // A catalog that says nothing of stock has everything.
    ...(inStock ? ['in_stock != false'] : []),
    ...(upTo === null ? [] : [`price <= ${upTo}`]),
  ].join(' and ');
}

/** The formula over a product that holds for those that are named. */
export const productsNamed = (skus: readonly string[]): string =>
  `sku in [${skus.map(quote).join(', ')}]`;
