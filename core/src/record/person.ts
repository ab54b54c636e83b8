import type { Cart } from './cart';
import type { Consent, Order, Shopper } from './fold';
import { instantOf, withInstants } from './instants';

type Fields = Record<string, unknown>;

/** What is known of a person from each side. */
export interface Sides {
  email: string;
  /** What sources of people say, the latest last. */
  rows: readonly Fields[];
  shopper: Shopper;
}

const isSaid = (value: unknown) =>
  value !== undefined &&
  value !== null &&
  value !== '' &&
  !(Array.isArray(value) && value.length === 0);

/** Consent as a row says it; null where it says nothing. */
function rowConsent(row: Fields): Consent | null {
  const { consent, consent_at, consent_how } = row;
  if (typeof consent !== 'boolean') return null;
  return {
    given: consent,
    at: typeof consent_at === 'string' ? consent_at : '',
    ...(typeof consent_how === 'string' && { how: consent_how }),
  };
}

/**
 * Puts a person together: what sources say (a later one over an earlier, blanks over nothing), what
 * events told where sources are silent, and of consent whatever was said last. Without a row in any
 * source, a person is a guest of the shop.
 */
export function mergePerson({ email, rows, shopper }: Sides): Fields {
  const person: Fields = { email };
  let consent: Consent | null = null;
  for (const row of rows) {
    for (const [name, value] of Object.entries(row))
      if (isSaid(value) || !Object.hasOwn(person, name)) assign(person, name, value);
    consent = rowConsent(row) ?? consent;
  }
  for (const [name, value] of Object.entries(shopper.told))
    if (!isSaid(person[name])) assign(person, name, value);
  if (rows.length === 0) person['guest'] = true;
  if (!isSaid(person['joined']) && shopper.first_seen_at) person['joined'] = shopper.first_seen_at;
  const said = shopper.consent;
  if (said && (!consent || said.at >= consent.at)) consent = said;
  person['consent'] = consent?.given ?? false;
  if (consent?.at) person['consent_at'] = consent.at;
  if (consent?.how) person['consent_how'] = consent.how;
  return person;
}

function assign(record: Fields, name: string, value: unknown): void {
  Object.defineProperty(record, name, {
    value,
    enumerable: true,
    configurable: true,
    writable: true,
  });
}

/** Carts and orders that were imported whole, beside what events came to. */
export interface Imported {
  cart: Cart | null;
  orders: readonly Order[];
}

/** The later of two carts, and every order once, the shop's events knowing better, by time. */
export function mergeShopper(shopper: Shopper, imported: Imported): Shopper {
  if (!imported.cart && imported.orders.length === 0) return shopper;
  const cart = imported.cart && withInstants(imported.cart);
  const known = new Set(shopper.orders.map((order) => order.number));
  // What events say of an imported order is later than what its file says.
  const { loose_statuses = [] } = shopper;
  const others = imported.orders
    .filter((order) => !known.has(order.number))
    .map((one) => {
      const order = withInstants(one);
      const said = loose_statuses.findLast(({ number }) => number === order.number);
      return said
        ? { ...order, status: said.status, ...(said.at !== undefined && { status_at: said.at }) }
        : order;
    });
  const orders = [...shopper.orders, ...others].sort(
    (a, b) => instantOf(a.placed_at) - instantOf(b.placed_at),
  );
  const touched = instantOf(cart?.updated_at);
  const isLater = cart && (!shopper.cart || instantOf(shopper.cart.updated_at) < touched);
  const isOrdered = cart && orders.some((order) => instantOf(order.placed_at) >= touched);
  return { ...shopper, orders, cart: isLater && !isOrdered ? cart : shopper.cart };
}
