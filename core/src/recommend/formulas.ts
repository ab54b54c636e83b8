import {
  compile,
  evaluate,
  localeOf,
  newContext,
  parsedFormula,
  toDate,
  walk,
  type Evaluate,
  type Fields,
  type Value,
} from '../formula';
import { kept, type Product, type Shop } from './define';

const NEVER = ['catalog', 'feeds', 'coupon', 'event', 'links', 'own'];
/** What the formula of a pool cannot read: it is asked of products alone, whoever the person is. */
export const NOT_IN_POOL: readonly string[] = ['picks', ...NEVER, 'person', 'cart', 'order'];
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
  if (other === 'picks')
    return 'It cannot read picks: they are made from it, and that would come round in a circle.';
  return `It cannot read “${other}”. A field of the product is written product.price.`;
}

/** Asks a formula of one product after the other. One that cannot be read holds for none. */
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
  const date = new Date(now);
  return ({ record: product }) => {
    const context = newContext({ ...record, product }, localeOf([], []));
    context.clock = { now: date, today: toDate(date.toISOString().slice(0, 10)) as Value };
    return evaluate(compiled, context) === true;
  };
}
