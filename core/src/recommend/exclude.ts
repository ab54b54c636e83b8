import {
  listOf,
  nameOf,
  numberOf,
  textOf,
  valueOf,
  type Asked,
  type Product,
  type Shop,
} from './define';
import { holdsFor } from './formulas';
import { stretchOf } from './history';
import { DAY_MS, instantOfLine } from './lines';
import type { Rule } from './rule';
import { dateOf } from './steps/newest';

const DAY = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone: 'UTC' });

/** Whether what was in the latest order is left out: as it is said, else together with what was bought before. */
export const leavesOutLatest = ({ latest_order: said, bought_days }: Rule['exclude']): boolean =>
  said ?? bought_days !== undefined;

/** What is never picked for somebody, with the reason for a designer; null for what may be. */
export function exclusions(
  { exclude }: Rule,
  shop: Shop,
  asked: Asked,
): (product: Product) => string | null {
  const { own: history } = shop;
  const { bought } = history;
  const { bought_days: days } = exclude;
  const withoutLatest = leavesOutLatest(exclude);
  const lastBought = new Map<number, number>();
  if (days !== undefined) {
    const [from, to] = stretchOf(history, bought, asked.person);
    for (let i = from; i < to; i++)
      lastBought.set(bought.product[i] ?? 0, instantOfLine(bought, i));
  }
  const cart = new Set(asked.cart);
  const latest = new Set(withoutLatest ? asked.latest : []);
  const shown = new Set(
    exclude.shown_mails ? (asked.shown ?? []).slice(0, exclude.shown_mails).flat() : [],
  );
  const unwanted = exclude.where
    ? holdsFor(shop, exclude.where, asked.now, asked.record)
    : () => false;
  return (product) => {
    const { sku, record, number } = product;
    if (exclude.out_of_stock && valueOf(record, 'in_stock') === false) return 'out of stock';
    if (exclude.in_cart && cart.has(sku)) return 'in the cart';
    const at = number === undefined ? undefined : lastBought.get(number);
    // To the minute: whoever bought it n days ago and later is outside.
    if (at !== undefined && (days === 'ever' || asked.now - at < (days ?? 0) * DAY_MS))
      return `bought on ${DAY.format(at)}`;
    if (latest.has(sku)) return 'in the latest order';
    if (shown.has(sku))
      return `in ${exclude.shown_mails === 1 ? 'the last email' : `one of the last ${exclude.shown_mails ?? 0} emails`}`;
    return unwanted(product) ? 'left out by the formula' : null;
  };
}

/** The kinds of a product that a rule spreads over: each of its categories counts. Of what has none, any number may come. */
function kindsOf({ record }: Product, by: NonNullable<Rule['spread']>['by']): string[] {
  if (by !== 'price') {
    const also = by === 'category' ? listOf(record, 'categories') : [];
    return [...new Set([textOf(record, by), ...also])].filter((kind) => kind !== '');
  }
  const price = numberOf(record, 'price');
  if (price <= 0) return [];
  // Each band reaches to twice its beginning.
  const from = 2 ** Math.floor(Math.log2(price));
  return [`${from} to ${from * 2}`];
}

/** Counts what is picked of each kind, and says of what comes on top why it does not come. */
export class Spread {
  private readonly counts = new Map<string, number>();

  constructor(private readonly spread: Rule['spread']) {}

  full(product: Product): string | null {
    if (!this.spread) return null;
    const { by, most } = this.spread;
    const kind = kindsOf(product, by).find((one) => (this.counts.get(one) ?? 0) >= most);
    if (kind === undefined) return null;
    const many = this.counts.get(kind) ?? 0;
    return `${many} of ${kind} ${many === 1 ? 'is' : 'are'} there already`;
  }

  add(product: Product): void {
    if (!this.spread) return;
    for (const kind of kindsOf(product, this.spread.by))
      this.counts.set(kind, (this.counts.get(kind) ?? 0) + 1);
  }
}

/** Puts picks in the order that a rule asks for. */
export function inOrder<T extends { product: Product }>(picks: T[], order: Rule['order']): T[] {
  const price = ({ product: { record } }: T) => numberOf(record, 'price');
  const added = ({ product }: T) => dateOf(product, 'added_at');
  switch (order) {
    case 'price_up':
      return picks.sort((a, b) => price(a) - price(b));
    case 'price_down':
      return picks.sort((a, b) => price(b) - price(a));
    case 'newest':
      return picks.sort((a, b) => added(b) - added(a));
    case 'name':
      return picks.sort((a, b) => nameOf(a.product).localeCompare(nameOf(b.product), 'en'));
    case undefined:
      return picks;
  }
}
