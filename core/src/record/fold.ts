import { roundTo } from '../formula/number';
import type { Property, ShopEvent } from './events';

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
}

/** All that a person's events come to. */
export interface Shopper {
  cart: Cart | null;
  orders: Order[];
  last_seen_at: string | null;
}

export const NEW_SHOPPER: Shopper = { cart: null, orders: [], last_seen_at: null };

/** Money is kept to the cent. */
export function cents(amount: number): number {
  return roundTo(amount, 2);
}

function sameProperties(a: Property[], b: Property[]): boolean {
  return (
    a.length === b.length && a.every((p, i) => p.name === b[i]?.name && p.value === b[i]?.value)
  );
}

type Of<K extends ShopEvent['kind']> = Extract<ShopEvent, { kind: K }>;

function added(cart: Cart | null, event: Of<'cart_added'>): Cart {
  const { sku, name, variant, image, url, category, price, quantity } = event;
  const properties = event.properties ?? [];
  const base: Cart = cart ?? {
    id: `c-${event.id}`,
    started_at: event.at,
    updated_at: event.at,
    currency: event.currency,
    lines: [],
  };
  const same = (line: Line) =>
    line.sku === sku && line.variant === variant && sameProperties(line.properties, properties);
  const lines = base.lines.some(same)
    ? base.lines.map((line) => (same(line) ? withQuantity(line, line.quantity + quantity) : line))
    : [
        ...base.lines,
        {
          sku,
          name,
          ...(variant !== undefined && { variant }),
          ...(image !== undefined && { image }),
          ...(url !== undefined && { url }),
          ...(category !== undefined && { category }),
          price,
          quantity,
          total: cents(price * quantity),
          properties,
        },
      ];
  return { ...base, lines, updated_at: event.at };
}

function withQuantity(line: Line, quantity: number): Line {
  return { ...line, quantity, total: cents(line.price * quantity) };
}

function placed(cart: Cart, event: Of<'order_placed'>): Order {
  const subtotal = cents(cart.lines.reduce((sum, line) => sum + line.total, 0));
  const { number, discount, shipping, tax, note, ship_to } = event;
  return {
    number,
    placed_at: event.at,
    status: 'Received',
    currency: cart.currency,
    lines: cart.lines,
    subtotal,
    ...(discount !== undefined && { discount }),
    ...(shipping !== undefined && { shipping }),
    ...(tax !== undefined && { tax }),
    total: cents(subtotal - (discount ?? 0) + (shipping ?? 0)),
    ...(note !== undefined && { note }),
    ...(ship_to !== undefined && { ship_to }),
  };
}

function withStatus(orders: Order[], number: string, status: string): Order[] {
  return orders.map((order) => (order.number === number ? { ...order, status } : order));
}

/** One event further. Pure; events of one person come in the order of their time. */
export function foldEvent(shopper: Shopper, event: ShopEvent): Shopper {
  const seen = { ...shopper, last_seen_at: event.at };
  const { cart } = shopper;
  switch (event.kind) {
    case 'viewed':
      return seen;
    case 'cart_added':
      return { ...seen, cart: added(cart, event) };
    case 'cart_changed':
    case 'cart_removed': {
      if (!cart) return seen;
      const named = (line: Line) => line.sku === event.sku && line.variant === event.variant;
      const lines =
        event.kind === 'cart_removed'
          ? cart.lines.filter((line) => !named(line))
          : cart.lines.map((line) => (named(line) ? withQuantity(line, event.quantity) : line));
      return {
        ...seen,
        cart: lines.length === 0 ? null : { ...cart, lines, updated_at: event.at },
      };
    }
    case 'checkout_started':
      return cart ? { ...seen, cart: { ...cart, checkout_started_at: event.at } } : seen;
    case 'order_placed':
      if (!cart) return seen;
      return { ...seen, cart: null, orders: [...shopper.orders, placed(cart, event)] };
    case 'order_status_changed':
      return { ...shopper, orders: withStatus(shopper.orders, event.number, event.status) };
    case 'order_cancelled':
      return { ...shopper, orders: withStatus(shopper.orders, event.number, 'Cancelled') };
  }
}

/** What events come to, from a state on. Folding in pieces gives the same. */
export function foldEvents(events: Iterable<ShopEvent>, from: Shopper = NEW_SHOPPER): Shopper {
  let shopper = from;
  for (const event of events) shopper = foldEvent(shopper, event);
  return shopper;
}
