import type { ShopEvent } from '@carafe/core/record';
import { nanoid } from 'nanoid';

export interface ShopProduct {
  sku: string;
  name: string;
  description: string;
  url: string;
  image: string;
  price: number;
  was_price: number | '';
  currency: string;
  category: string;
  stock: number;
}

export interface ShopFile {
  shop: { id: string; name: string; currency: string; locale: string };
  shops: { id: string; name: string }[];
  products: ShopProduct[];
  variants: Record<string, string[]>;
}

export interface CartLine {
  sku: string;
  name: string;
  image: string;
  url: string;
  category: string;
  price: number;
  quantity: number;
  variant: string;
  properties: { name: string; value: string }[];
}

export interface PlacedOrder {
  number: string;
  status: string;
  total: number;
  lines: CartLine[];
}

/** What the shop remembers of this browser. */
export interface Visit {
  visitor: string;
  email: string;
  first_name: string;
  cart: CartLine[];
  orders: PlacedOrder[];
}

const newVisit = (): Visit => ({
  visitor: `web-${nanoid(12)}`,
  email: '',
  first_name: '',
  cart: [],
  orders: [],
});

const keyOf = (shop: string) => `stand-in shop ${shop}`;

export function readVisit(shop: string): Visit {
  const kept = localStorage.getItem(keyOf(shop));
  return kept === null ? newVisit() : (JSON.parse(kept) as Visit);
}

export function keepVisit(shop: string, visit: Visit): void {
  localStorage.setItem(keyOf(shop), JSON.stringify(visit));
}

/** Begins as another shopper in a browser that the shop does not know. */
export function forgetVisit(shop: string): Visit {
  localStorage.removeItem(keyOf(shop));
  return newVisit();
}

type Told = ShopEvent extends infer E
  ? E extends ShopEvent
    ? Omit<E, 'id' | 'at' | 'shop' | 'email' | 'visitor'>
    : never
  : never;

/** The time as this machine’s Carafe has it: in test-only mode its clock can be moved on. */
async function timeHere(): Promise<string> {
  const answer = await fetch('/api/clock');
  if (!answer.ok) return new Date().toISOString();
  const { now } = (await answer.json()) as { now: string };
  return now;
}

/** What a link of a mail brings back: whose it is, their cart, the order that it was about. */
interface Kept {
  email: string;
  first_name: string;
  cart: CartLine[];
  order: { number: string; status: string; total: number; lines: CartLine[] } | null;
}

/** The visit as a link of a mail left it: that very cart in the basket, that order in the back room. */
export async function comeBack(visit: Visit, signed: string): Promise<Visit> {
  const answer = await fetch(`/shop/kept/${encodeURIComponent(signed)}.json`);
  if (!answer.ok) throw new Error('The shop does not know this link.');
  const { email, first_name, cart, order } = (await answer.json()) as Kept;
  const others = visit.orders.filter(({ number }) => number !== order?.number);
  return { ...visit, email, first_name, cart, orders: order ? [order, ...others] : visit.orders };
}

/** Tells Carafe what happened, as any shop would: one event, posted. Throws with the answer's sentence. */
export async function tell(shop: string, visit: Visit, event: Told): Promise<void> {
  const { visitor, email, first_name } = visit;
  const body = {
    id: nanoid(),
    at: await timeHere(),
    shop,
    visitor,
    ...(email && { email }),
    ...(email && first_name && { person: { first_name } }),
    ...event,
  };
  const answer = await fetch('/api/events', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (answer.ok) return;
  const { error } = (await answer.json()) as { error?: { message: string } };
  throw new Error(error?.message ?? `The event was answered with ${answer.status}.`);
}

export const sameLine = (a: CartLine, b: CartLine) =>
  a.sku === b.sku &&
  a.variant === b.variant &&
  JSON.stringify(a.properties) === JSON.stringify(b.properties);

/** The number of a new order, told apart by the time. */
export function orderNumber(now: Date): string {
  return `SI-${now.getTime().toString(36).toUpperCase()}`;
}

export function totalOf(lines: readonly CartLine[]): number {
  return (
    Math.round(lines.reduce((sum, { price, quantity }) => sum + price * quantity, 0) * 100) / 100
  );
}
