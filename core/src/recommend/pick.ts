import type { Fields } from '../formula';
import { nameOf, textOf, type Asked, type Candidate, type Product, type Shop } from './define';
import { boughtBy, dayOf, type History } from './history';
import { Pairs } from './pairs';
import type { Rule } from './rule';
import { stepKind } from './steps';

/** A shop made ready for picks: its indexes are built here, once. */
export function shopOf(history: History, catalog: readonly Fields[]): Shop {
  const products = catalog.flatMap((record, place): Product[] => {
    const sku = textOf(record, 'sku');
    return sku === '' ? [] : [{ sku, record, place, number: history.products.find(sku) }];
  });
  // Of two products of one SKU, the first stands.
  const bySku = new Map([...products].reverse().map((product) => [product.sku, product]));
  return {
    history,
    pairs: new Pairs(history),
    products: [...bySku.values()].sort((a, b) => a.place - b.place),
    bySku,
  };
}

/** A product for one person, with the step that chose it and why. */
export interface Pick extends Candidate {
  /** The place of the step in the rule, from 0. */
  step: number;
}
/** A product that would have been picked, and why it was not. */
export interface PassedOver {
  product: Product;
  step: number;
  why: string;
}
export interface Picked {
  picks: Pick[];
  /** Those that stood before the last pick, in the order in which they came up. */
  passed: PassedOver[];
}

/** What is never picked for somebody, with the reason. */
function exclusions(
  { exclude }: Rule,
  shop: Shop,
  asked: Asked,
): (product: Product) => string | null {
  const { history } = shop;
  const today = dayOf(asked.now);
  const { bought_days: days } = exclude;
  const lastBought = new Map<number, number>();
  if (days !== undefined)
    for (const line of boughtBy(history, asked.person))
      lastBought.set(history.bought.product[line] ?? 0, history.bought.day[line] ?? 0);
  const cart = new Set(asked.cart);
  const latest = new Set(days === undefined ? [] : asked.latest);
  return ({ sku, record, number }) => {
    if (exclude.out_of_stock && (record as Record<string, unknown>)['in_stock'] === false)
      return 'out of stock';
    if (exclude.in_cart && cart.has(sku)) return 'in the cart';
    const day = number === undefined ? undefined : lastBought.get(number);
    if (day !== undefined && (days === 'ever' || today - day < (days ?? 0)))
      return `bought on ${new Date(day * 86_400_000).toISOString().slice(0, 10)}`;
    return latest.has(sku) ? 'in the latest order' : null;
  };
}

const SHOWN_PASSED = 30;

/** The picks of a rule for one person. */
export function pick(rule: Rule, shop: Shop, asked: Asked): Picked {
  const picks: Pick[] = [];
  const passed: PassedOver[] = [];
  const taken = new Set<string>();
  const told = new Set<string>();
  const excluded = exclusions(rule, shop, asked);
  const { spread, number } = rule;
  const counts = new Map<string, number>();
  const groupOf = ({ record }: Product) => (spread ? textOf(record, spread.by) : '');
  const passOver = (product: Product, step: number, why: string) => {
    if (told.has(product.sku) || passed.length >= SHOWN_PASSED) return;
    told.add(product.sku);
    passed.push({ product, step, why });
  };
  rule.steps.forEach(({ take, step }, at) => {
    const isLast = at === rule.steps.length - 1;
    let room = Math.min(number - picks.length, isLast ? number : take);
    if (room <= 0) return;
    for (const candidate of stepKind(step.kind).candidates(step, shop, asked)) {
      if (room === 0) break;
      const { product } = candidate;
      if (taken.has(product.sku)) continue;
      const why = excluded(product);
      const group = groupOf(product);
      const many = counts.get(group) ?? 0;
      if (why !== null) passOver(product, at, why);
      else if (spread && group !== '' && many >= spread.most)
        passOver(product, at, `${many} of ${group} are there already`);
      else {
        taken.add(product.sku);
        counts.set(group, many + 1);
        picks.push({ ...candidate, step: at });
        room--;
      }
    }
  });
  return { picks, passed: passed.filter(({ product }) => !taken.has(product.sku)) };
}

/** What a formula sees of a pick: the product with the reason in plain words. */
export function pickRecord({ product, reason }: Pick): Fields {
  return { ...product.record, name: nameOf(product), reason };
}
