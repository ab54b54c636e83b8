import fc from 'fast-check';
import { foldHeap, readEvent, type ShopEvent } from '.';

// A second fold, written from docs/events.md alone, plainly and with lists that change. The two agree on
// random events: what the document says is enough to work out what events come to.

interface ALine {
  sku: string;
  variant: string | undefined;
  properties: { name: string; value: string }[];
  name: string;
  price: number;
  quantity: number;
}
interface ACart {
  id: string;
  started: string;
  updated: string;
  checkout?: string;
  currency: string;
  lines: ALine[];
}
interface AnOrder {
  number: string;
  at: string;
  status: string;
  statusAt: string | undefined;
  currency: string;
  lines: ALine[];
  total: number;
  subtotal: number;
}

const cents = (n: number) => (Math.sign(n) * Math.round(Math.abs(n) * 100 + 1e-9)) / 100;
const lineTotal = ({ price, quantity }: ALine) => cents(price * quantity);
const sum = (lines: ALine[]) => cents(lines.reduce((total, line) => total + lineTotal(line), 0));

const blank = (text: string | undefined) => text === undefined || text.trim() === '';

/** A property as it is kept: lists joined, what is null blank. */
function kept({ name, value }: { name: string; value: unknown }) {
  if (Array.isArray(value))
    return { name, value: value.filter((v) => String(v).trim() !== '').join(', ') };
  return { name, value: value === null ? '' : String(value) };
}
const lineOf = (said: Extract<ShopEvent, { kind: 'cart_added' }> | ALine): ALine => ({
  sku: said.sku,
  variant: blank(said.variant) ? undefined : said.variant,
  properties: (said.properties ?? []).map(kept),
  name: said.name,
  price: cents(said.price),
  quantity: said.quantity,
});
const sameProperties = (a: ALine['properties'], b: ALine['properties']) =>
  JSON.stringify(a) === JSON.stringify(b);

function anew(given: ShopEvent[]) {
  const seen = new Set<string>();
  const events = given.filter(({ id }) => !seen.has(id) && seen.add(id));
  events.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  // The cart that is shown stands last.
  let carts: ACart[] = [];
  const orders: AnOrder[] = [];
  const waiting = new Map<string, { status: string; at: string }>();
  const told: Record<string, string> = {};
  let first: string | undefined;
  let last: string | undefined;
  let consent: { given: boolean; at: string } | undefined;
  for (const event of events) {
    const { at } = event;
    if (event.kind !== 'order_status_changed' && event.kind !== 'order_cancelled') {
      first ??= at;
      for (const [name, value] of Object.entries(event.person ?? {}))
        if (value.trim() !== '') told[name] = value;
      if (event.kind !== 'consent_changed') last = at;
    }
    if (event.kind === 'cart_added') {
      const found = carts.find(({ currency }) => currency === event.currency);
      const cart = found ?? {
        ...{ id: `c-${event.id}`, started: at, updated: at, currency: event.currency },
        lines: [] as ALine[],
      };
      carts = [...carts.filter((one) => one !== cart), cart];
      const line = lineOf(event);
      const same = cart.lines.find(
        (one) =>
          one.sku === line.sku &&
          one.variant === line.variant &&
          sameProperties(one.properties, line.properties),
      );
      if (same) Object.assign(same, line, { quantity: same.quantity + line.quantity });
      else cart.lines.push(line);
      cart.updated = at;
    }
    if (event.kind === 'cart_changed' || event.kind === 'cart_removed') {
      const properties = event.properties?.map(kept);
      for (const cart of [...carts]) {
        const meant = cart.lines.filter(
          (line) =>
            line.sku === event.sku &&
            (line.variant ?? '') === (blank(event.variant) ? '' : event.variant) &&
            (!properties || sameProperties(line.properties, properties)),
        );
        if (meant.length === 0) continue;
        if (event.kind === 'cart_changed') for (const line of meant) line.quantity = event.quantity;
        else cart.lines = cart.lines.filter((line) => !meant.includes(line));
        cart.updated = at;
        if (cart.lines.length === 0) carts = carts.filter((one) => one !== cart);
      }
    }
    if (event.kind === 'checkout_started') {
      const shown = carts.at(-1);
      if (shown) shown.checkout = at;
    }
    if (event.kind === 'order_placed' && !orders.some(({ number }) => number === event.number)) {
      const cart = event.currency
        ? carts.find(({ currency }) => currency === event.currency)
        : carts.at(-1);
      const own = event.lines?.map((line) => lineOf(line as unknown as ALine)) ?? [];
      const lines = own.length > 0 ? own : cart?.lines;
      const currency = event.currency ?? cart?.currency;
      if (!lines || !currency) continue;
      carts = carts.filter((one) => one !== cart);
      const subtotal = sum(lines);
      const { discount = 0, shipping = 0, tax = 0, tax_included = true } = event;
      orders.push({
        ...{ number: event.number, at, currency, lines, subtotal },
        status:
          waiting.get(event.number)?.status ??
          (blank(event.status) ? 'Received' : (event.status ?? '')),
        statusAt: waiting.get(event.number)?.at,
        total: cents(
          subtotal - cents(discount) + cents(shipping) + (tax_included ? 0 : cents(tax)),
        ),
      });
      waiting.delete(event.number);
    }
    if (event.kind === 'order_status_changed' || event.kind === 'order_cancelled') {
      const status = event.kind === 'order_cancelled' ? 'Cancelled' : event.status;
      const order = orders.find(({ number }) => number === event.number);
      if (order) Object.assign(order, { status, statusAt: at });
      else waiting.set(event.number, { status, at });
    }
    if (event.kind === 'consent_changed') consent = { given: event.consent, at };
  }
  return { carts, orders, told, first, last, consent };
}

const price = fc.integer({ min: 0, max: 2000 }).map((n) => n / 100);
/** Amounts that are not of whole cents, as they come out of a percentage. */
const amount = fc.integer({ min: 0, max: 20_000 }).map((n) => n / 1000);
const properties = fc.option(
  fc.array(
    fc.record({
      name: fc.constantFrom('Label', 'Note'),
      value: fc.oneof(fc.constantFrom('Fern', '', null, 3, true), fc.constant(['a', ' ', 'b'])),
    }),
    { maxLength: 2 },
  ),
  { nil: undefined },
);
const thing = {
  sku: fc.constantFrom('A', 'B', 'C'),
  variant: fc.option(fc.constantFrom('x', 'y', '', ' '), { nil: undefined }),
  properties,
};
const line = {
  ...thing,
  name: fc.constantFrom('Aster', 'Beet'),
  price,
  quantity: fc.integer({ min: 1, max: 5 }),
};
const currency = fc.constantFrom('GBP', 'EUR');
const number = fc.constantFrom('N1', 'N2', 'N3');
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: undefined });
const KINDS = fc.oneof(
  fc.record({ kind: fc.constant('viewed'), sku: thing.sku }),
  fc.record({ kind: fc.constant('cart_added'), currency, ...line }),
  fc.record({ kind: fc.constant('cart_added'), currency, ...line }),
  fc.record({
    kind: fc.constant('cart_changed'),
    ...thing,
    quantity: fc.integer({ min: 1, max: 9 }),
  }),
  fc.record({ kind: fc.constant('cart_removed'), ...thing }),
  fc.record({ kind: fc.constant('checkout_started') }),
  fc.record({
    ...{ kind: fc.constant('order_placed'), number, currency: maybe(currency) },
    lines: maybe(fc.array(fc.record(line), { maxLength: 3 })),
    ...{ status: maybe(fc.constantFrom('Paid', '')), shipping: maybe(amount) },
    ...{ discount: maybe(amount), tax: maybe(amount), tax_included: maybe(fc.boolean()) },
  }),
  fc.record({
    kind: fc.constant('order_status_changed'),
    number,
    status: fc.constantFrom('Sent', 'Paid'),
  }),
  fc.record({ kind: fc.constant('order_cancelled'), number }),
  fc.record({ kind: fc.constant('consent_changed'), consent: fc.boolean() }),
);
const events = fc
  .array(
    fc.tuple(
      fc.integer({ min: 0, max: 30 }),
      fc.integer({ min: 0, max: 12 }),
      maybe(fc.record({ first_name: fc.constantFrom('Maud', ' '), city: fc.constant('Ware') })),
      KINDS,
    ),
    { maxLength: 30 },
  )
  .map((all) =>
    all.map(([minute, id, person, what]) => ({
      ...{ id: `e${id}`, at: new Date(Date.UTC(2026, 0, 1, 9, minute)).toISOString() },
      ...{ shop: 's', email: 'maud@q.example', ...(person && { person }) },
      ...what,
    })),
  );

test('the document is enough to write the fold anew: both come to the same', () => {
  fc.assert(
    fc.property(events, (sent) => {
      const read = sent.flatMap((one) => {
        const event = readEvent(JSON.parse(JSON.stringify(one)));
        if (!event.ok) throw new Error(event.message);
        return [event.event];
      });
      const theirs = anew(read);
      const ours = foldHeap(read);
      const lines = (
        all: readonly {
          sku: string;
          price: number;
          quantity: number;
          total: number;
          properties: unknown;
        }[],
      ) =>
        all.map(({ sku, price: each, quantity, total, properties: own }) => [
          sku,
          each,
          quantity,
          total,
          own,
        ]);
      const theirLines = (all: ALine[]) =>
        all.map((one) => [one.sku, one.price, one.quantity, lineTotal(one), one.properties]);
      const shown = theirs.carts.at(-1);
      expect(ours.cart?.id).toBe(shown?.id);
      expect(ours.cart?.updated_at).toBe(shown?.updated);
      expect(ours.cart?.checkout_started_at).toBe(shown?.checkout);
      expect(lines(ours.cart?.lines ?? [])).toEqual(theirLines(shown?.lines ?? []));
      expect((ours.other_carts ?? []).map(({ currency: of }) => of)).toEqual(
        theirs.carts.slice(0, -1).map(({ currency: of }) => of),
      );
      expect(
        ours.orders.map((o) => [
          o.number,
          o.placed_at,
          o.status,
          o.status_at,
          o.currency,
          o.subtotal,
          o.total,
        ]),
      ).toEqual(
        theirs.orders.map((o) => [
          o.number,
          o.at,
          o.status,
          o.statusAt,
          o.currency,
          o.subtotal,
          o.total,
        ]),
      );
      expect(ours.orders.map((o) => lines(o.lines))).toEqual(
        theirs.orders.map((o) => theirLines(o.lines)),
      );
      expect({ ...ours.told }).toEqual(theirs.told);
      expect([ours.first_seen_at, ours.last_seen_at]).toEqual([
        theirs.first ?? null,
        theirs.last ?? null,
      ]);
      expect(ours.consent?.given).toBe(theirs.consent?.given);
    }),
    { numRuns: 500 },
  );
});
