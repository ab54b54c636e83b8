import { foldEvents, readEvent, type ShopEvent } from '@carafe/core/record';
import fc from 'fast-check';
import { FileCarts } from './fileCarts';

const START = Date.UTC(2026, 10, 1);
const people = ['maud@post.example', 'ann@post.example', undefined];

const events = fc
  .array(
    fc.record({
      minute: fc.nat({ max: 30 }),
      who: fc.constantFrom(0, 0, 0, 1, 1, 2),
      kind: fc.constantFrom('viewed', 'cart_added', 'cart_removed', 'order_placed'),
      currency: fc.constantFrom('GBP', 'EUR'),
      saysCurrency: fc.boolean(),
    }),
    { maxLength: 14 },
  )
  .map((all) =>
    all.map(({ minute, who, kind, currency, saysCurrency }, i): ShopEvent => {
      const read = readEvent({
        ...{ id: `e${i}`, shop: 'q', kind, sku: 'S', visitor: 'v', email: people[who] },
        at: new Date(START + minute * 60_000).toISOString(),
        ...(kind === 'cart_added' ? { name: 'Poppy', price: 2, quantity: 1, currency } : {}),
        ...(kind === 'order_placed' ? { number: `N-${i}` } : {}),
        ...(kind === 'order_placed' && saysCurrency ? { currency } : {}),
      });
      if (!read.ok) throw new Error(read.message);
      return read.event;
    }),
  );

it('is never sure of an order that the fold finds empty', () => {
  fc.assert(
    fc.property(events, (all) => {
      const carts = new FileCarts();
      const sure = all.filter((event) => carts.see(event));
      const doubtful = carts.doubtful();
      for (const order of sure) {
        if (order.kind !== 'order_placed' || doubtful === 'all') continue;
        if (doubtful.includes(`${order.shop} ${order.email ?? ''}`)) continue;
        const own = all.filter(({ email }) => email === order.email);
        // As they are kept: by their time, and of one instant as they came.
        const inTurn = own.toSorted((a, b) => a.at.localeCompare(b.at));
        const { orders } = foldEvents(inTurn);
        expect(orders.map(({ number }) => number)).toContain(order.number);
      }
    }),
    { numRuns: 300 },
  );
});

it('is sure of an order that follows what was put into the cart', () => {
  const carts = new FileCarts();
  const head = { shop: 'q', email: 'maud@post.example' };
  const at = (minute: number) => new Date(START + minute * 60_000).toISOString();
  const added: ShopEvent = {
    ...{ ...head, id: 'a', at: at(1), kind: 'cart_added', currency: 'GBP' },
    ...{ sku: 'S', name: 'Poppy', price: 2, quantity: 1 },
  };
  expect(carts.see(added)).toBe(false);
  expect(carts.see({ ...head, at: at(2), kind: 'viewed' })).toBe(false);
  expect(carts.see({ ...head, at: at(3), kind: 'order_placed' })).toBe(true);
  expect(carts.see({ ...head, at: at(4), kind: 'order_placed' })).toBe(false);
  expect(carts.doubtful()).toEqual([]);
});

it('is sure of nobody’s order once an event does not say whose it is, nor of whose events go back', () => {
  const carts = new FileCarts();
  const seen = (email: string | undefined, second: number): ShopEvent => ({
    ...{ id: `${second}`, shop: 'q', visitor: 'v', kind: 'viewed', sku: 'S' },
    ...(email === undefined ? {} : { email }),
    at: new Date(START + second * 1000).toISOString(),
  });
  carts.see(seen('maud@post.example', 2));
  carts.see(seen('ann@post.example', 1));
  carts.see(seen('maud@post.example', 1));
  expect(carts.doubtful()).toEqual(['q maud@post.example']);
  carts.see(seen(undefined, 9));
  expect(carts.doubtful()).toBe('all');
});
