import { Day, fieldOf, toDate, type Fields } from '../formula';
import { isDateField } from './dates';
import { cents, type Cart, type Line } from './cart';
import { spent, standing, type Order, type Shopper } from './fold';
import type { Past } from './past';
import type { Products } from './productsThen';

/** What every recipient of a shop shares. */
export interface SharedData {
  shop: Fields & { url?: unknown };
  /** Where links in emails lead to Carafe; the shop’s own address where it is left out. */
  home?: string;
  catalog: Record<string, Fields[]>;
  feeds: Fields;
  coupon: Fields;
}

/** One person as stored: their own fields, and what their events came to. */
export interface PersonData {
  person: Fields & { email?: unknown };
  shopper: Shopper;
  /** Among the best customers of the shop, 1 to 5. */
  rank?: number;
  /** What stands for the person in links of mails, without saying who it is. */
  token?: string;
  /** By rule: the products that it picks for the person, with the reason in plain words. */
  picks?: Record<string, { sku: string; reason: string; step?: number }[]>;
  /** What they looked at and received, where a condition asks for it. */
  past?: Past;
}

/** {"date": ISO 8601} as a date, null where it is none; undefined for any other record. */
function markedDate(record: object): Date | null | undefined {
  const { date } = record as { date?: unknown };
  if (typeof date !== 'string' || Object.keys(record).length !== 1) return undefined;
  return toDate(date) ?? null;
}

/**
 * Reads the dates in a record that came as JSON: the fields that the record names as dates, and
 * {"date": ISO} anywhere. Everything else stays as it is, and what has no date is given back itself;
 * hostile keys stay plain keys. Hot: a catalog of 100,000 products is read by it.
 */
export function reviveRecord(record: unknown, depth = 0): unknown {
  if (typeof record !== 'object' || record === null || depth > 40) return record;
  if (Array.isArray(record)) {
    const members = record.map((member) => reviveRecord(member, depth + 1));
    return members.some((member, i) => member !== record[i]) ? members : record;
  }
  const marked = markedDate(record);
  if (marked !== undefined) return marked;
  const given = record as Record<string, unknown>;
  let revived = given;
  for (const name of Object.keys(given)) {
    const value = given[name];
    const isText = typeof value === 'string';
    if (!isText && (typeof value !== 'object' || value === null)) continue;
    const date = isText && isDateField(name) ? toDate(value) : undefined;
    const now = date ?? (isText ? value : reviveRecord(value, depth + 1));
    // A key of this name would be no field of a copy.
    if (now === value || name === '__proto__') continue;
    if (revived === given) revived = { ...given };
    revived[name] = now;
  }
  return revived;
}

/** Makes a record ready to be sent to a thread, which forgets what a Day is: {"date": …}, for `reviveRecord`. */
export function packDays(value: unknown): unknown {
  if (value instanceof Day) return { date: value.toJSON() };
  if (typeof value !== 'object' || value === null || value instanceof Date) return value;
  if (Array.isArray(value)) return value.map(packDays);
  return Object.fromEntries(
    Object.entries(value).map(([name, inside]) => [name, packDays(inside)]),
  );
}

/** Finds products by SKU: those of the shared catalogs, and others that are given. */
export function productIndex(
  shared: SharedData,
  extraProducts: readonly Fields[] = [],
): Map<string, Fields> {
  const index = new Map<string, Fields>();
  for (const products of [...Object.values(shared.catalog), extraProducts])
    addProducts(index, products);
  return index;
}

/** Lets an index find some more products; of one SKU the first stays. */
export function addProducts(index: Map<string, Fields>, products: readonly Fields[]): void {
  for (const product of products) {
    const sku = fieldOf(product, 'sku');
    if (typeof sku === 'string' && !index.has(sku)) index.set(sku, product);
  }
}

/** How a record is put together. */
export interface AssembleOptions {
  /**
   * The parts that are read; without it, all are put together. Of a person that is not read only the fields of sources are
   * there, for the language and the time zone.
   */
  reads?: ReadonlySet<string> | undefined;
  /**
   * What is given is used up: it becomes the record, not a copy of it. For whoever has read it for this alone, many times
   * over.
   */
  usesUp?: boolean;
}

function lineRecord(line: Line, products: Products, usesUp: boolean): Fields {
  const product = products.get(line.sku);
  const record = (usesUp ? line : { ...line }) as unknown as Record<string, unknown>;
  record['image'] = line.image ?? product?.['image'];
  record['in_stock'] = product?.['in_stock'];
  if (product) record['product'] = product;
  return record;
}

function cartRecord(cart: Cart, shared: SharedData, products: Products, usesUp: boolean): Fields {
  const subtotal = cents(cart.lines.reduce((sum, line) => sum + line.total, 0));
  return Object.assign(usesUp ? cart : { ...cart }, {
    lines: cart.lines.map((line) => lineRecord(line, products, usesUp)),
    count: cart.lines.length,
    quantity: cart.lines.reduce((sum, line) => sum + line.quantity, 0),
    subtotal,
    total: cart.total ?? cents(subtotal - (cart.discount ?? 0)),
    recover_url:
      cart.recover_url ?? `${String(shared.shop.url)}/cart/${encodeURIComponent(cart.id)}`,
  }) as unknown as Fields;
}

function orderRecord(
  order: Order,
  shared: SharedData,
  products: Products,
  usesUp: boolean,
): Fields {
  const url = `${String(shared.shop.url)}/orders/${encodeURIComponent(order.number)}`;
  return Object.assign(usesUp ? order : { ...order }, {
    lines: order.lines.map((line) => lineRecord(line, products, usesUp)),
    view_url: order.view_url ?? url,
    ...(order.status === 'Awaiting payment' && { pay_url: order.pay_url ?? `${url}/pay` }),
  }) as unknown as Fields;
}

/** Picks as formulas read them: the product as the catalog has it, with the reason. */
function picksRecord(picks: NonNullable<PersonData['picks']>, products: Products): Fields {
  return Object.fromEntries(
    Object.entries(picks).map(([rule, picked]) => [
      rule,
      picked.flatMap(({ sku, reason, step }) => {
        const product = products.get(sku);
        return product ? [{ ...product, reason, ...(step !== undefined && { step }) }] : [];
      }),
    ]),
  );
}

/** The record that formulas read, for one person. Dates are dates, amounts are numbers. */
export function assembleRecord(
  data: PersonData,
  shared: SharedData,
  products: Products,
  options?: AssembleOptions,
): Fields {
  return Object.assign(ownRecord(data, shared, products, options), sharedRecord(shared));
}

/** What formulas read of that which all share: where links lead to is no part of a record. */
export const sharedRecord = ({ shop, catalog, feeds, coupon }: SharedData): Fields =>
  ({ shop, catalog, feeds, coupon }) as unknown as Fields;

/** What of the record belongs to one person alone: a record of its own, whatever it is made of. */
export function ownRecord(
  data: PersonData,
  shared: SharedData,
  products: Products,
  { reads, usesUp = false }: AssembleOptions = {},
): Fields {
  const { orders } = data.shopper;
  const isRead = (part: string) => reads === undefined || reads.has(part) || reads.has('record');
  const cart = isRead('cart') ? data.shopper.cart : null;
  const order = isRead('order') ? orders.at(-1) : undefined;
  const own: Record<string, unknown> = {};
  if (isRead('person')) own['person'] = personRecord(data, usesUp);
  if (cart) own['cart'] = cartRecord(cart, shared, products, usesUp);
  if (order) own['order'] = orderRecord(order, shared, products, usesUp);
  // Every order, the first one first: for conditions over what somebody ever bought.
  if (isRead('orders'))
    own['orders'] = orders.map((one) =>
      one === order ? own['order'] : orderRecord(one, shared, products, usesUp),
    );
  if (data.picks) own['picks'] = picksRecord(data.picks, products);
  const revived = reviveOwn(own, usesUp) as Record<string, unknown>;
  revived['person'] ??= data.person;
  if (isRead('links')) revived['links'] = linksRecord(data, shared);
  return revived as Fields;
}

function personRecord({ person: given, shopper, rank }: PersonData, usesUp: boolean): Fields {
  const { orders, last_seen_at } = shopper;
  const bought = standing(orders);
  // Hot: fields one by one, on a record that has its own from the beginning.
  const person = (usesUp ? given : { ...given }) as Record<string, unknown>;
  person['orders_count'] = bought.length;
  person['orders_total'] = spent(bought);
  person['first_order_at'] = bought[0]?.placed_at;
  person['last_order_at'] = bought.at(-1)?.placed_at;
  person['last_seen_at'] = last_seen_at;
  person['rank'] = rank;
  return person as Fields;
}

/** The links of a mail that are the person’s own. */
function linksRecord({ token: own }: PersonData, shared: SharedData): Fields {
  const token = encodeURIComponent(own ?? 'nobody');
  const base = shared.home ?? String(shared.shop.url);
  const links = (name: string) => `${base}/mail/${name}/${token}`;
  return {
    unsubscribe: links('unsubscribe'),
    preferences: links('preferences'),
    view_in_browser: links('view'),
  };
}

/**
 * Revives what belongs to the person; products inside lines come from the shared, revived already. What has no date is
 * given back itself; of what has one a copy is made, unless it is used up. Hot: once for each recipient of a mail to many.
 */
function reviveOwn(value: unknown, usesUp: boolean): unknown {
  if (typeof value !== 'object' || value === null || value instanceof Date) return value;
  if (Array.isArray(value)) {
    let revived: unknown[] | null = null;
    for (let i = 0; i < value.length; i++) {
      const member: unknown = value[i];
      const now = reviveOwn(member, usesUp);
      if (now === member) continue;
      revived ??= usesUp ? value : (value.slice() as unknown[]);
      revived[i] = now;
    }
    return revived ?? value;
  }
  const given = value as Record<string, unknown>;
  if ('date' in given) {
    const marked = markedDate(given);
    if (marked !== undefined) return marked;
  }
  let revived: Record<string, unknown> | null = null;
  for (const name of Object.keys(given)) {
    const inside = given[name];
    let now: unknown = inside;
    if (typeof inside === 'string') now = isDateField(name) ? (toDate(inside) ?? inside) : inside;
    else if (typeof inside === 'object' && inside !== null && name !== 'product')
      now = reviveOwn(inside, usesUp);
    // A key of this name would be no field of a copy.
    if (now === inside || name === '__proto__') continue;
    revived ??= usesUp ? given : { ...given };
    revived[name] = now;
  }
  return revived ?? value;
}
