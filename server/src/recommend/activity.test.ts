import type { PersonData } from '@carafe/core/record';
import { NEW_SHOPPER } from '@carafe/core/record';
import { activityOfSome } from './activity';

const at = (day: number) => `2026-11-${String(day).padStart(2, '0')}T09:00:00.000Z`;
const seenAs = (kind: string, sku: string, day: number) => ({ owner: 'a', kind, sku, at: at(day) });
const line = { sku: 'pot', name: 'Pot', price: 10, quantity: 1, total: 10, properties: [] };
const order = (number: string, currency: string) => ({
  ...{ number, placed_at: at(1), status: 'Sent', currency, lines: [line], subtotal: 10, total: 10 },
});
const data = {
  person: { email: 'a' },
  shopper: { ...NEW_SHOPPER, orders: [order('1', 'EUR'), order('2', 'GBP')] },
} as unknown as PersonData;
const of = (...seen: object[]) =>
  activityOfSome(
    {
      events: { seen: () => [], seenBy: () => seen } as never,
      shops: { find: () => ({ currency: 'EUR' }) } as never,
    },
    's',
    [{ data }],
  )[0];

test('what a person took out of the cart themselves was not left in it', () => {
  const activity = of(
    seenAs('cart_added', 'pot', 1),
    seenAs('cart_added', 'seed', 2),
    seenAs('cart_removed', 'pot', 3),
    seenAs('cart_added', 'bean', 4),
    seenAs('cart_removed', 'bean', 5),
    seenAs('cart_added', 'bean', 6),
  );
  expect(activity?.carted?.map(({ sku }) => sku)).toEqual(['seed', 'bean']);
  expect(activity?.carted?.[1]?.at).toBe(Date.parse(at(6)));
});

test('money of another currency is not added to the shop’s', () => {
  expect(of()?.bought.map(({ price }) => price)).toEqual([10, 0]);
});
