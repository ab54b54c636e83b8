import { roundTo } from '../formula/number';
import { keptProperty, type Property, type ShopEvent } from './events';

/** A line of a cart or an order as it is kept; the catalog's record is joined when a mail is filled. */
export interface Line {
  sku: string;
  name: string;
  variant?: string;
  image?: string;
  url?: string;
  category?: string;
  price: number;
  quantity: number;
  total: number;
  properties: Property[];
}

export interface Cart {
  id: string;
  started_at: string;
  updated_at: string;
  checkout_started_at?: string;
  currency: string;
  lines: Line[];
  /** What an imported cart says of itself. */
  discount?: number;
  total?: number;
  recover_url?: string;
}

export interface Order {
  number: string;
  placed_at: string;
  status: string;
  currency: string;
  lines: Line[];
  subtotal: number;
  discount?: number;
  shipping?: number;
  tax?: number;
  total: number;
  note?: string;
  ship_to?: Record<string, string>;
  pay_url?: string;
  view_url?: string;
}

/** Whether a person wants marketing mail, since when, and how they said so. */
export interface Consent {
  given: boolean;
  at: string;
  how?: string;
}

/** All that a person's events come to. */
export interface Shopper {
  cart: Cart | null;
  orders: Order[];
  first_seen_at: string | null;
  last_seen_at: string | null;
  consent: Consent | null;
  /** What events told of the person: first_name, locale and so on. */
  told: Record<string, string>;
}

export const NEW_SHOPPER: Shopper = {
  cart: null,
  orders: [],
  first_seen_at: null,
  last_seen_at: null,
  consent: null,
  told: {},
};

/** Money is kept to the cent. */
export function cents(amount: number): number {
  return roundTo(amount, 2);
}

function sameProperties(a: readonly Property[], b: readonly Property[]): boolean {
  return (
    a.length === b.length && a.every((p, i) => p.name === b[i]?.name && p.value === b[i]?.value)
  );
}

type Of<K extends ShopEvent['kind']> = Extract<ShopEvent, { kind: K }>;
type Thing = NonNullable<Of<'order_placed'>['lines']>[number];

function lineOf(thing: Thing): Line {
  const { sku, name, variant, image, url, category, price, quantity, properties = [] } = thing;
  return {
    sku,
    name,
    ...(variant !== undefined && { variant }),
    ...(image !== undefined && { image }),
    ...(url !== undefined && { url }),
    ...(category !== undefined && { category }),
    price,
    quantity,
    total: cents(price * quantity),
    properties: properties.map(keptProperty),
  };
}

function added(cart: Cart | null, event: Of<'cart_added'>): Cart {
  const one = lineOf(event);
  const base: Cart = cart ?? {
    id: `c-${event.id}`,
    started_at: event.at,
    updated_at: event.at,
    currency: event.currency,
    lines: [],
  };
  const same = (line: Line) =>
    line.sku === one.sku &&
    line.variant === one.variant &&
    sameProperties(line.properties, one.properties);
  const lines = base.lines.some(same)
    ? base.lines.map((line) =>
        same(line) ? withQuantity(line, line.quantity + one.quantity) : line,
      )
    : [...base.lines, one];
  return { ...base, lines, updated_at: event.at };
}

function withQuantity(line: Line, quantity: number): Line {
  return { ...line, quantity, total: cents(line.price * quantity) };
}

function placed(cart: Cart | null, event: Of<'order_placed'>): Order | null {
  const lines = event.lines?.map(lineOf) ?? cart?.lines;
  const currency = event.currency ?? cart?.currency;
  if (!lines || currency === undefined) return null;
  const subtotal = cents(lines.reduce((sum, line) => sum + line.total, 0));
  const { number, discount, shipping, tax, note, ship_to } = event;
  return {
    number,
    placed_at: event.at,
    status: event.status ?? 'Received',
    currency,
    lines,
    subtotal,
    ...(discount !== undefined && { discount }),
    ...(shipping !== undefined && { shipping }),
    ...(tax !== undefined && { tax }),
    total: cents(Math.max(0, subtotal - (discount ?? 0) + (shipping ?? 0))),
    ...(note !== undefined && { note }),
    ...(ship_to !== undefined && { ship_to }),
  };
}

function withStatus(orders: Order[], number: string, status: string): Order[] {
  return orders.map((order) => (order.number === number ? { ...order, status } : order));
}

function seen(shopper: Shopper, event: ShopEvent): Shopper {
  const { at, person } = event;
  return {
    ...shopper,
    first_seen_at: shopper.first_seen_at ?? at,
    last_seen_at: at,
    ...(person && { told: { ...shopper.told, ...definedOf(person) } }),
  };
}

function definedOf(record: Record<string, string | undefined>): Record<string, string> {
  const filled = Object.entries(record).filter(([, v]) => v !== undefined && v.trim() !== '');
  return Object.fromEntries(filled) as Record<string, string>;
}

/** One event further. Pure; events of one person come in the order of `inOrder`. */
export function foldEvent(before: Shopper, event: ShopEvent): Shopper {
  // What the shop does to an order, and consent, say nothing of when the person was there.
  const isOwn = event.kind !== 'order_status_changed' && event.kind !== 'order_cancelled';
  const shopper = isOwn ? seen(before, event) : before;
  const { cart } = shopper;
  switch (event.kind) {
    case 'viewed':
      return shopper;
    case 'cart_added':
      return { ...shopper, cart: added(cart, event) };
    case 'cart_changed':
    case 'cart_removed': {
      if (!cart) return shopper;
      const properties = event.properties?.map(keptProperty);
      const isNamed = (line: Line) =>
        line.sku === event.sku &&
        line.variant === event.variant &&
        (!properties || sameProperties(line.properties, properties));
      const lines =
        event.kind === 'cart_removed'
          ? cart.lines.filter((line) => !isNamed(line))
          : cart.lines.map((line) => (isNamed(line) ? withQuantity(line, event.quantity) : line));
      const kept = lines.length === 0 ? null : { ...cart, lines, updated_at: event.at };
      return { ...shopper, cart: kept };
    }
    case 'checkout_started':
      return cart ? { ...shopper, cart: { ...cart, checkout_started_at: event.at } } : shopper;
    case 'order_placed': {
      const isKnown = shopper.orders.some((order) => order.number === event.number);
      const order = isKnown ? null : placed(cart, event);
      return order ? { ...shopper, cart: null, orders: [...shopper.orders, order] } : shopper;
    }
    case 'order_status_changed':
      return { ...shopper, orders: withStatus(shopper.orders, event.number, event.status) };
    case 'order_cancelled':
      return { ...shopper, orders: withStatus(shopper.orders, event.number, 'Cancelled') };
    case 'consent_changed': {
      const { consent: given, at, how } = event;
      return { ...shopper, consent: { given, at, ...(how !== undefined && { how }) } };
    }
  }
}

/** What events come to, from a state on. Folding in pieces gives the same. */
export function foldEvents(events: Iterable<ShopEvent>, from: Shopper = NEW_SHOPPER): Shopper {
  let shopper = from;
  for (const event of events) shopper = foldEvent(shopper, event);
  return shopper;
}

/** The order in which events are folded: by time, then by id. */
export function inOrder(a: { at: string; id: string }, b: { at: string; id: string }): -1 | 0 | 1 {
  if (a.at !== b.at) return a.at < b.at ? -1 : 1;
  return a.id === b.id ? 0 : a.id < b.id ? -1 : 1;
}

/** What a heap of events comes to, in whatever order and however often each one lies in it. */
export function foldHeap(events: Iterable<ShopEvent>): Shopper {
  const once = new Map<string, ShopEvent>();
  for (const event of events) if (!once.has(event.id)) once.set(event.id, event);
  return foldEvents([...once.values()].sort(inOrder));
}
