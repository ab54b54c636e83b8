import {
  addedTo,
  cents,
  changedIn,
  lineOf,
  type Cart,
  type Carts,
  type Line,
  type Of,
} from './cart';
import type { ShopEvent } from './events';

export interface Order {
  number: string;
  placed_at: string;
  status: string;
  /** When the status became what it is, where that was told after the order was placed. */
  status_at?: string;
  currency: string;
  lines: Line[];
  subtotal: number;
  discount?: number;
  shipping?: number;
  tax?: number;
  total: number;
  /** What was given back of it. */
  refunded?: number;
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
  /** Carts of other currencies, the one that was added to last at the end. */
  other_carts?: Cart[];
  orders: Order[];
  first_seen_at: string | null;
  last_seen_at: string | null;
  consent: Consent | null;
  /** What events told of the person: first_name, locale and so on. */
  told: Record<string, string>;
  /** Statuses of orders that no event has placed so far, the latest last. */
  loose_statuses?: { number: string; status: string; at?: string }[];
}

export const NEW_SHOPPER: Shopper = {
  cart: null,
  orders: [],
  first_seen_at: null,
  last_seen_at: null,
  consent: null,
  told: {},
};

/** The carts as a shopper keeps them. */
function withCarts(shopper: Shopper, carts: Carts): Shopper {
  const { other_carts: _, ...rest } = shopper;
  const others = carts.slice(0, -1);
  return {
    ...rest,
    cart: carts.at(-1) ?? null,
    ...(others.length > 0 && { other_carts: others }),
  };
}

const cartsOf = ({ cart, other_carts = [] }: Shopper): Carts =>
  cart ? [...other_carts, cart] : other_carts;

/** The order that an event places: of its own lines, else of the cart's. Null where there are none. */
function orderOf(cart: Cart | undefined, event: Of<'order_placed'>): Order | null {
  const lines = event.lines?.length ? event.lines.map(lineOf) : cart?.lines;
  const currency = event.currency ?? cart?.currency;
  if (!lines || currency === undefined) return null;
  const subtotal = cents(lines.reduce((sum, line) => sum + line.total, 0));
  const { number, tax_included = true, note, ship_to } = event;
  // Each to the cent by itself, so that what a mail shows adds up.
  const discount = event.discount === undefined ? undefined : cents(event.discount);
  const shipping = event.shipping === undefined ? undefined : cents(event.shipping);
  const tax = event.tax === undefined ? undefined : cents(event.tax);
  const added = tax_included ? 0 : (tax ?? 0);
  return {
    number,
    placed_at: event.at,
    status: event.status?.trim() ? event.status : 'Received',
    currency,
    lines,
    subtotal,
    ...(discount !== undefined && { discount }),
    ...(shipping !== undefined && { shipping }),
    ...(tax !== undefined && { tax }),
    total: cents(subtotal - (discount ?? 0) + (shipping ?? 0) + added),
    ...(note !== undefined && { note }),
    ...(ship_to !== undefined && { ship_to }),
  };
}

function placed(shopper: Shopper, event: Of<'order_placed'>): Shopper {
  const { orders } = shopper;
  if (orders.some(({ number }) => number === event.number)) return shopper;
  const carts = cartsOf(shopper);
  // Without a currency, the cart that was added to last is meant.
  const cart = event.currency
    ? carts.find(({ currency }) => currency === event.currency)
    : carts.at(-1);
  const order = orderOf(cart, event);
  if (!order) return shopper;
  const emptied = withCarts(
    shopper,
    carts.filter((one) => one !== cart),
  );
  const { loose_statuses = [], ...rest } = emptied;
  const known = loose_statuses.findLast(({ number }) => number === order.number);
  const loose = loose_statuses.filter(({ number }) => number !== order.number);
  return {
    ...rest,
    orders: [...orders, known ? withStatusOf(order, known) : order],
    ...(loose.length > 0 && { loose_statuses: loose }),
  };
}

const withStatusOf = (order: Order, { status, at }: { status: string; at?: string }): Order => ({
  ...order,
  status,
  ...(at !== undefined && { status_at: at }),
});

/** The status goes to its order, or waits until an event places it. */
function withStatus(shopper: Shopper, number: string, status: string, at: string): Shopper {
  const { orders, loose_statuses = [] } = shopper;
  if (!orders.some((order) => order.number === number))
    return { ...shopper, loose_statuses: [...loose_statuses, { number, status, at }] };
  return {
    ...shopper,
    orders: orders.map((order) =>
      order.number === number ? { ...order, status, status_at: at } : order,
    ),
  };
}

function withOrder(shopper: Shopper, number: string, change: (order: Order) => Order): Shopper {
  const { orders } = shopper;
  if (!orders.some((order) => order.number === number)) return shopper;
  return {
    ...shopper,
    orders: orders.map((order) => (order.number === number ? change(order) : order)),
  };
}

/** An order with what an event says of it; whatever it leaves out stays. */
function changedOrder(order: Order, event: Of<'order_changed'>): Order {
  const lines = event.lines ? event.lines.map(lineOf) : order.lines;
  const subtotal = event.lines
    ? cents(lines.reduce((sum, line) => sum + line.total, 0))
    : order.subtotal;
  const amounts = {
    discount: event.discount ?? order.discount,
    shipping: event.shipping ?? order.shipping,
    tax: event.tax ?? order.tax,
  };
  // Whether its prices hold the tax was not kept: the total tells.
  const bare = order.subtotal - (order.discount ?? 0) + (order.shipping ?? 0);
  const isAdded = order.total - bare > 0.005;
  const added = (event.tax_included === undefined ? isAdded : !event.tax_included)
    ? (amounts.tax ?? 0)
    : 0;
  const { note, ship_to } = event;
  return {
    ...{ ...order, lines, subtotal },
    ...(amounts.discount !== undefined && { discount: cents(amounts.discount) }),
    ...(amounts.shipping !== undefined && { shipping: cents(amounts.shipping) }),
    ...(amounts.tax !== undefined && { tax: cents(amounts.tax) }),
    total: cents(subtotal - (amounts.discount ?? 0) + (amounts.shipping ?? 0) + added),
    ...(note !== undefined && { note }),
    ...(ship_to !== undefined && { ship_to }),
  };
}

/** What the shop does to an order says nothing of the person. */
const OF_THE_SHOP: ReadonlySet<ShopEvent['kind']> = new Set([
  'order_status_changed',
  'order_cancelled',
  'order_changed',
  'order_refunded',
]);

/** When the person was there, and what was told of them. Consent can be given without being there. */
function seen(shopper: Shopper, event: ShopEvent): Shopper {
  if (OF_THE_SHOP.has(event.kind)) return shopper;
  const { at, person } = event;
  return {
    ...shopper,
    first_seen_at: shopper.first_seen_at ?? at,
    ...(event.kind !== 'consent_changed' && { last_seen_at: at }),
    ...(person && { told: { ...shopper.told, ...definedOf(person) } }),
  };
}

function definedOf(record: Record<string, string | undefined>): Record<string, string> {
  const filled = Object.entries(record).filter(([, v]) => v !== undefined && v.trim() !== '');
  return Object.fromEntries(filled) as Record<string, string>;
}

/** One event further. Pure; events of one person come in the order of `inOrder`. */
export function foldEvent(before: Shopper, event: ShopEvent): Shopper {
  const shopper = seen(before, event);
  switch (event.kind) {
    case 'viewed':
      return shopper;
    case 'cart_added':
      return withCarts(shopper, addedTo(cartsOf(shopper), event));
    case 'cart_changed':
    case 'cart_removed':
      return withCarts(shopper, changedIn(cartsOf(shopper), event));
    case 'checkout_started': {
      const { cart } = shopper;
      return cart ? { ...shopper, cart: { ...cart, checkout_started_at: event.at } } : shopper;
    }
    case 'order_placed':
      return placed(shopper, event);
    case 'order_status_changed':
      return withStatus(shopper, event.number, event.status, event.at);
    case 'order_cancelled':
      return withStatus(shopper, event.number, CANCELLED, event.at);
    case 'order_changed':
      return withOrder(shopper, event.number, (order) => changedOrder(order, event));
    case 'order_refunded':
      return withOrder(shopper, event.number, (order) => ({
        ...order,
        refunded: cents(Math.min(order.total, (order.refunded ?? 0) + event.amount)),
      }));
    case 'consent_changed': {
      const { consent: given, at, how } = event;
      return { ...shopper, consent: { given, at, ...(how !== undefined && { how }) } };
    }
  }
}

/** The status of an order that came to nothing. */
export const CANCELLED = 'Cancelled';

/** The orders that count among what somebody bought. */
export function standing(orders: readonly Order[]): Order[] {
  return orders.filter(({ status }) => status !== CANCELLED);
}

/**
 * What standing orders come to, in the order in which they were placed: of those in the currency of the last one, since
 * amounts of two currencies are never added up; what was given back is taken off.
 */
export function spent(bought: readonly Pick<Order, 'currency' | 'total' | 'refunded'>[]): number {
  const currency = bought.at(-1)?.currency;
  let sum = 0;
  for (const { currency: own, total, refunded = 0 } of bought)
    if (own === currency) sum += total - refunded;
  return cents(sum);
}

/** What events come to, from a state on. Folding in pieces gives the same. */
export function foldEvents(events: Iterable<ShopEvent>, from: Shopper = NEW_SHOPPER): Shopper {
  let shopper = from;
  for (const event of events) shopper = foldEvent(shopper, event);
  return shopper;
}

/** The order in which events are folded: by time; those of one instant as they were received. */
export function inOrder(a: { at: string }, b: { at: string }): -1 | 0 | 1 {
  return a.at < b.at ? -1 : a.at > b.at ? 1 : 0;
}

/** What a heap of events comes to, in whatever order and however often each one lies in it. */
export function foldHeap(events: Iterable<ShopEvent>): Shopper {
  const once = new Map<string, ShopEvent>();
  for (const event of events) if (!once.has(event.id)) once.set(event.id, event);
  return foldEvents([...once.values()].sort(inOrder));
}
