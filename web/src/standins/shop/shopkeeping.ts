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

/** Tells Carafe what happened, as any shop would: one event, posted. Throws with the answer's sentence. */
export async function tell(shop: string, visit: Visit, event: Told): Promise<void> {
  const { visitor, email, first_name } = visit;
  const body = {
    id: nanoid(),
    at: new Date().toISOString(),
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
