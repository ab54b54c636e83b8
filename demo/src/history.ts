import type { ShopEvent } from '@carafe/core/record';
import { VARIANTS, type Category, type DemoProduct } from './catalog';
import type { DemoPerson } from './people';
import { seeded, type Random } from './random';
import { chosen, tasteOf, type Taste } from './tastes';

const MINUTE = 60_000;
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const LABELS = [
  'For Mum',
  'Row 3',
  'Plot 14',
  'Grandad’s beans',
  'Do not water',
  'Käthe & Jost',
  'Pour Odile',
];
const NOTES = [
  'Happy birthday, with love from all of us',
  'Thank you for the loan of the mower',
  'Sow these by the gate',
];

/** Writes the events of one person, one after the other. */
class Diary {
  readonly events: ShopEvent[] = [];
  /** In the cart, in money. */
  private inCart = 0;

  constructor(
    private readonly person: DemoPerson,
    private readonly currency: string,
    private readonly newId: () => string,
  ) {}

  private head(at: number) {
    const { shop, email } = this.person;
    return { id: this.newId(), at: new Date(at).toISOString(), shop, email };
  }

  add(
    at: number,
    product: DemoProduct,
    quantity: number,
    variant: string,
    properties: { name: string; value: string }[],
  ) {
    const { sku, name, image, url, category, price } = product;
    this.inCart += price * quantity;
    this.events.push({ ...this.head(at - 120_000), kind: 'viewed', sku });
    this.events.push({
      ...this.head(at),
      kind: 'cart_added',
      currency: this.currency,
      sku,
      name,
      variant,
      ...(image && { image }),
      url,
      category,
      price,
      quantity,
      ...(properties.length > 0 && { properties }),
    });
  }

  order(at: number, number: string, rest: { shipping: number; discount?: number; note?: string }) {
    const { city, country, first_name, last_name } = this.person;
    // No shop gives more off than there is to pay.
    const { discount, ...others } = rest;
    const fits = discount !== undefined && discount <= this.inCart;
    this.inCart = 0;
    this.events.push({ ...this.head(at - 200_000), kind: 'checkout_started' });
    this.events.push({
      ...this.head(at),
      kind: 'order_placed',
      number,
      ...others,
      ...(fits && { discount }),
      ship_to: { name: `${first_name} ${last_name}`.trim(), city, country },
    });
  }

  /** Takes everything out of the cart again. */
  takeOut(at: number) {
    this.inCart = 0;
    const skus = new Set(
      this.events.flatMap((event) => (event.kind === 'cart_added' ? [event.sku] : [])),
    );
    [...skus].forEach((sku, i) => {
      const variants = this.events.flatMap((event) =>
        event.kind === 'cart_added' && event.sku === sku ? [event.variant] : [],
      );
      for (const variant of new Set(variants))
        this.events.push({
          ...{ ...this.head(at + i * 60_000), kind: 'cart_removed', sku },
          ...(variant !== undefined && { variant }),
        });
    });
  }

  status(at: number, number: string, status: string) {
    this.events.push({ ...this.head(at), kind: 'order_status_changed', number, status });
  }
}

function propertiesFor(product: DemoProduct, r: Random): { name: string; value: string }[] {
  const properties: { name: string; value: string }[] = [];
  if ((product.category === 'Pots' || product.category === 'Tools') && r.chance(0.6))
    properties.push({ name: 'Engraved label', value: r.pick(LABELS) });
  if (r.chance(0.2))
    properties.push({ name: 'Gift note', value: r.chance(0.5) ? r.pick(NOTES) : '' });
  if ((product.category === 'Bulbs' || product.category === 'Seeds') && r.chance(0.3))
    properties.push({ name: 'Delivery week', value: `Week ${r.whole(36, 44)}` });
  return properties;
}

/** Fills a cart by somebody's taste; gives what was put into it. */
function fillCart(
  diary: Diary,
  products: DemoProduct[],
  { taste, before }: { taste: Taste; before: readonly DemoProduct[] },
  lines: number,
  at: number,
  r: Random,
): DemoProduct[] {
  const inCart: DemoProduct[] = [];
  for (let i = 0; i < lines; i++) {
    const product = chosen(products, taste, { at, inCart, before }, r);
    inCart.push(product);
    const variant = r.pick(VARIANTS[product.category as Category]);
    const quantity = product.price < 6 ? r.whole(1, 5) : r.whole(1, 2);
    diary.add(at + i * 240_000, product, quantity, variant, propertiesFor(product, r));
  }
  return inCart;
}

/** The first two people of each shop, whose carts and orders every picture and test relies on. */
function writeKnown(
  diary: Diary,
  index: number,
  products: DemoProduct[],
  asOf: number,
  order: string,
): void {
  const at = (sku: string) => {
    const found = products.find((p) => p.sku === sku);
    if (!found) throw new Error(`The demo has no product ${sku}.`);
    return found;
  };
  if (index === 0) {
    diary.add(asOf - 40 * DAY, at('T-107'), 1, 'Ash', [
      { name: 'Engraved label', value: 'M. F., 1987–' },
      { name: 'Gift note', value: '' },
    ]);
    diary.add(asOf - 40 * DAY + 60_000, at('S-103'), 4, 'Packet of 200', [
      { name: 'Delivery week', value: 'Week 41' },
    ]);
    diary.add(asOf - 40 * DAY + 120_000, at('P-112'), 2, '18 cm', [
      { name: 'Engraved label', value: 'Row 3' },
      { name: 'Gift note', value: 'Sow these by the gate' },
    ]);
    diary.order(asOf - 40 * DAY + HOUR, order, {
      shipping: 4.95,
      discount: 5,
      note: 'Please leave it in the greenhouse.',
    });
    diary.status(asOf - 38 * DAY, order, 'Sent');
    diary.add(asOf - 26 * HOUR, at('P-101'), 2, '26 cm', [
      { name: 'Engraved label', value: 'Auriculas' },
    ]);
    diary.add(asOf - 26 * HOUR + 60_000, at('S-101'), 3, 'Packet of 50', []);
    diary.add(asOf - 25 * HOUR, at('T-102'), 1, 'Beech', []);
  } else {
    diary.add(asOf - 20 * HOUR, at('S-113'), 1, 'Packet of 50', []);
  }
}

/** Within bounds, each length as likely as its double. */
const between = (least: number, most: number, r: Random): number =>
  Math.floor(least * (most / least) ** r.next());

/** How long somebody takes from the full cart to the order: mostly minutes, often hours, now and then days. */
function untilOrder(r: Random): number {
  const chance = r.next();
  if (chance < 0.5) return between(4 * MINUTE, 45 * MINUTE, r);
  if (chance < 0.75) return between(45 * MINUTE, 8 * HOUR, r);
  return chance < 0.93 ? between(8 * HOUR, 2 * DAY, r) : between(2 * DAY, 6 * DAY, r);
}

/** Few shop at night: what falls into it falls into the day after. */
function awake(at: number): number {
  const hour = new Date(at).getUTCHours();
  return hour < 6 ? at + 9 * HOUR : at;
}

/** How long ago a cart was filled that lies there now: in the last three days, or in any of eight weeks. */
const sinceLeft = (chance: number): number =>
  chance < 0.25 ? HOUR + chance * 4 * 71 * HOUR : 3 * DAY + ((chance - 0.25) / 0.75) * 53 * DAY;

/** What a person without a written story does: some orders over 14 months, perhaps a cart now. */
function writeChance(
  diary: Diary,
  person: DemoPerson,
  products: DemoProduct[],
  asOf: number,
  { r, pauses, newNumber }: { r: Random; pauses: Random; newNumber: () => string },
): void {
  const taste = tasteOf(products, r);
  const before: DemoProduct[] = [];
  const joined = Date.parse(person.joined);
  const from = Math.max(joined, asOf - 425 * DAY);
  const orders = r.chance(0.45) ? 0 : r.whole(1, r.chance(0.15) ? 7 : 3);
  const times = Array.from({ length: orders }, () =>
    awake(from + r.next() * (asOf - 3 * DAY - from)),
  ).sort((a, b) => a - b);
  // Nobody fills the next cart before the last one is ordered.
  let free = from;
  for (const time of times) {
    const at = Math.floor(Math.max(time, free));
    const lines = r.whole(1, 5);
    before.push(...fillCart(diary, products, { taste, before }, lines, at, r));
    const filled = at + lines * 240_000;
    const ordered = filled + Math.min(untilOrder(pauses), Math.max(HOUR, asOf - HOUR - filled));
    free = ordered + HOUR;
    const number = newNumber();
    diary.order(ordered, number, {
      shipping: r.chance(0.4) ? 0 : 4.95,
      ...(r.chance(0.2) && { discount: r.whole(1, 8) }),
      ...(r.chance(0.15) && { note: r.pick(NOTES) }),
    });
    const sent = ordered + 2 * DAY;
    if (sent < asOf) diary.status(sent, number, r.chance(0.08) ? 'Ready to collect' : 'Sent');
    else if (r.chance(0.2)) diary.status(ordered + MINUTE, number, 'Awaiting payment');
  }
  if (r.chance(0.3))
    fillCart(
      diary,
      products,
      { taste, before },
      r.whole(1, 4),
      // Three quarters of an hour until the last line lies in it.
      Math.floor(asOf - MINUTE * 45 - sinceLeft(r.next())),
      r,
    );
}

/** A cart of the last two months that nothing came of: its things were taken out again, soon or some days later. */
function writeLeft(
  diary: Diary,
  products: DemoProduct[],
  own: readonly number[],
  asOf: number,
  r: Random,
): void {
  if (!r.chance(0.4)) return;
  const at = awake(Math.floor(asOf - (8 + r.next() * 50) * DAY));
  const isBusy = own.some((time) => Math.abs(time - at) < 6 * DAY);
  if (isBusy) return;
  const things = Array.from({ length: r.whole(1, 3) }, () => r.pick(products));
  things.forEach((product, i) => {
    const variant = r.pick(VARIANTS[product.category as Category]);
    diary.add(at + i * 180_000, product, 1, variant, []);
  });
  diary.takeOut(at + HOUR + between(20 * MINUTE, 6 * DAY, r));
}

/** 14 months of events of one shop, in the order of their time. */
export function makeEvents(
  shop: string,
  currency: string,
  people: DemoPerson[],
  products: DemoProduct[],
  asOf: Date,
): ShopEvent[] {
  const r = seeded(currency === 'EUR' ? 5 : 3);
  const pauses = seeded(currency === 'EUR' ? 83 : 61);
  let ids = 0;
  let numbers = 1000;
  const newId = () => `${shop}-${String(++ids)}`;
  const newNumber = () => `${currency === 'EUR' ? 'QE' : 'QG'}-${String(++numbers)}`;
  const events = people
    .filter((person) => person.shop === shop)
    .flatMap((person, i) => {
      const diary = new Diary(person, currency, newId);
      if (i < 2) writeKnown(diary, i, products, asOf.getTime(), newNumber());
      else writeChance(diary, person, products, asOf.getTime(), { r, pauses, newNumber });
      return diary.events;
    });
  // With chance of its own, after all else: what came before stays as it is.
  const chance = seeded(currency === 'EUR' ? 59 : 37);
  const times = new Map<string, number[]>();
  for (const { email = '', at } of events) {
    const own = times.get(email) ?? [];
    own.push(Date.parse(at));
    times.set(email, own);
  }
  const left = people
    .filter((person) => person.shop === shop)
    .slice(2)
    .flatMap((person) => {
      const diary = new Diary(person, currency, newId);
      const own = times.get(person.email.toLowerCase()) ?? times.get(person.email) ?? [];
      writeLeft(diary, products, own, asOf.getTime(), chance);
      return diary.events;
    });
  return [...events, ...left].sort((a, b) => a.at.localeCompare(b.at));
}
