import { NEW_SHOPPER } from '@carafe/core/record';
import { handList } from './handLists';

const NOON = Date.parse('2026-11-24T12:00:00Z');
const at = (hours: number) => new Date(NOON - hours * 3_600_000).toISOString();

/** So many people, the first of whom left their cart an hour ago, the next two hours ago, and so on. */
function people(count: number) {
  return Array.from({ length: count }, (_, i) => {
    const lines = [{ sku: 'A', name: 'Pot', price: 2, quantity: 1, total: 2, properties: [] }];
    const cart = {
      id: `c${i}`,
      started_at: at(i + 1),
      updated_at: at(i + 1),
      currency: 'GBP',
      lines,
    };
    const email = `P${i}@post.example`;
    return { id: i, data: { person: { email }, shopper: { ...NEW_SHOPPER, cart } } };
  });
}
const listed = (count: number, hours: [quiet: number, oldest: number] = [0, 9_999]) => {
  const asked: string[] = [];
  const outbox = { list: ({ email }: { email: string }) => (asked.push(email), []) };
  const parts = { people: { withCart: () => people(count), withOrder: () => [] }, outbox };
  const task = { shop: 's', list: 'carts' as const, quiet: at(hours[0]), oldest: at(hours[1]) };
  return { ...handList(parts as never, task), asked };
};

test('all are listed while they are few, the latest first, each with the last mail to them', () => {
  const { rows, of, asked } = listed(3);
  expect([rows.map(({ person }) => person), of]).toEqual([[0, 1, 2], 3]);
  expect(asked).toEqual(['p0@post.example', 'p1@post.example', 'p2@post.example']);
});

test('of very many the latest are listed, and how many there are is told', () => {
  const { rows, of } = listed(1_200);
  expect([rows.length, rows[0]?.person, rows.at(-1)?.person, of]).toEqual([500, 0, 499, 1_200]);
});

test('what is not quiet yet, and what is given up, counts for nothing', () => {
  const { rows, of } = listed(10, [3, 6]);
  expect([rows.map(({ person }) => person), of]).toEqual([[2, 3, 4, 5], 4]);
});
