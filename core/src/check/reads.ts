import { rootsOf } from '../formula';
import { walkFormulas, type FormulaSite } from '../site';

/** The parts of a record that a template can read, in the order in which they are named. */
export const DATA_KINDS = [
  'person',
  'cart',
  'order',
  'catalog',
  'feeds',
  'picks',
  'coupon',
  'event',
] as const;
export type DataKind = (typeof DATA_KINDS)[number];

/** The names that the paths of sites begin with. */
export function rootsRead(sites: readonly FormulaSite[]): Set<string> {
  const roots = new Set<string>();
  walkFormulas(sites, (formula) => {
    for (const root of rootsOf(formula)) roots.add(root);
  });
  return roots;
}

/** What data sites read: "cart", "catalog", … */
export function dataRead(sites: readonly FormulaSite[]): DataKind[] {
  const roots = rootsRead(sites);
  return DATA_KINDS.filter((kind) => roots.has(kind));
}

/** What those have whom a template is for that reads such data: something in the cart, an order, or nothing of it. */
export function havingFor(reads: readonly string[]): 'all' | 'cart' | 'order' {
  if (reads.includes('cart')) return 'cart';
  return reads.includes('order') ? 'order' : 'all';
}
