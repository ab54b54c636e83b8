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

/** Nearer to half a cent than this, what an amount was reckoned from decides, not how a computer keeps it. */
const NEAR = 1e-6;

/**
 * Money is kept to the cent, halves away from zero: three at 1.005 are 3.02, as a formula reckons it, though the
 * product is kept as 3.0149999999999997.
 */
export function cents(amount: number): number {
  const part = Math.abs(amount * 100) % 1;
  return roundTo(Math.abs(part - 0.5) < NEAR ? roundTo(amount, 10) : amount, 2);
}

export type Of<K extends ShopEvent['kind']> = Extract<ShopEvent, { kind: K }>;
type Thing = NonNullable<Of<'order_placed'>['lines']>[number];

/** A variant that is blank is none: shops send either for products without. */
const variantOf = ({ variant }: { variant?: string | undefined }): string | undefined =>
  variant?.trim() ? variant : undefined;

export function lineOf(thing: Thing): Line {
  const variant = variantOf(thing);
  const { sku, name, image, url, category, price, quantity, properties = [] } = thing;
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

function sameProperties(a: readonly Property[], b: readonly Property[]): boolean {
  return (
    a.length === b.length && a.every((p, i) => p.name === b[i]?.name && p.value === b[i]?.value)
  );
}

function withQuantity(line: Line, quantity: number): Line {
  return { ...line, quantity, total: cents(line.price * quantity) };
}

/** The same product, variant and properties again add up, and are what was said of them last. */
function withLine(cart: Cart, one: Line, at: string): Cart {
  const same = (line: Line) =>
    line.sku === one.sku &&
    variantOf(line) === variantOf(one) &&
    sameProperties(line.properties, one.properties);
  const lines = cart.lines.some(same)
    ? cart.lines.map((line) =>
        same(line) ? withQuantity({ ...line, ...one }, line.quantity + one.quantity) : line,
      )
    : [...cart.lines, one];
  return { ...cart, lines, updated_at: at };
}

/**
 * A person's carts, one a currency, the one that was added to last at the end: that is the cart that
 * mails show. Amounts of two currencies are never added up.
 */
export type Carts = readonly Cart[];

/** The carts after something was put in. */
export function addedTo(carts: Carts, event: Of<'cart_added'>): Carts {
  const { id, at, currency } = event;
  const known = carts.find((cart) => cart.currency === currency);
  const cart = known ?? { id: `c-${id}`, started_at: at, updated_at: at, currency, lines: [] };
  return [...carts.filter((one) => one !== known), withLine(cart, lineOf(event), at)];
}

/** The carts after lines were changed in them or taken out; a cart without lines goes. */
export function changedIn(carts: Carts, event: Of<'cart_changed'> | Of<'cart_removed'>): Carts {
  const properties = event.properties?.map(keptProperty);
  const isNamed = (line: Line) =>
    line.sku === event.sku &&
    variantOf(line) === variantOf(event) &&
    (!properties || sameProperties(line.properties, properties));
  return carts.flatMap((cart) => {
    if (!cart.lines.some(isNamed)) return [cart];
    const lines =
      event.kind === 'cart_removed'
        ? cart.lines.filter((line) => !isNamed(line))
        : cart.lines.map((line) => (isNamed(line) ? withQuantity(line, event.quantity) : line));
    return lines.length === 0 ? [] : [{ ...cart, lines, updated_at: event.at }];
  });
}
