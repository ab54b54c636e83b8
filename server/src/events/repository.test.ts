import { readEvent } from '@carafe/core/record';
import { TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterAll(() => carafe.store.close());

let n = 0;
function insert(event: object): void {
  const read = readEvent({ id: `e${++n}`, shop: 's', at: '2026-11-20T10:00:00Z', ...event });
  if (!read.ok) throw new Error(read.message);
  carafe.tables.events.insert(read.event);
}

test('the latest events of a shop are told without sorting all of them', () => {
  const { db } = carafe.store;
  const sql = 'SELECT rowid AS n FROM events WHERE shop = ? ORDER BY at DESC, rowid DESC LIMIT 9';
  const plan = db.prepare(`EXPLAIN QUERY PLAN ${sql}`).all('s') as { detail: string }[];
  const details = plan.map(({ detail }) => detail).join();
  expect(details).toContain('events_by_time');
  expect(details).not.toContain('TEMP B-TREE');
});

test('of one instant, what came last stands first; the fold takes it the other way round', () => {
  const ann = { email: 'ann@q.example' };
  insert({ ...ann, kind: 'viewed', sku: 'A' });
  insert({ ...ann, kind: 'viewed', sku: 'C', at: '2026-11-20T09:00:00Z' });
  insert({ ...ann, kind: 'viewed', sku: 'B' });
  const skus = carafe.tables.events.rows('s', 10, 0).map(({ record }) => record['sku']);
  expect(skus).toEqual(['B', 'A', 'C']);
  const own = carafe.tables.events.of('s', 'ann@q.example');
  expect(own.map((event) => 'sku' in event && event.sku)).toEqual(['C', 'A', 'B']);
});

test('what somebody else says of a person’s order is theirs, in its turn; another order stays another’s', () => {
  const at = (minute: number) => ({ at: `2026-11-21T10:${String(minute).padStart(2, '0')}:00Z` });
  const lines = [{ sku: 'S', name: 'Poppy', price: 2, quantity: 1 }];
  const order = { kind: 'order_placed', currency: 'GBP', lines };
  insert({ ...order, ...at(1), email: 'bo@q.example', number: 'N-1' });
  insert({ ...order, ...at(1), email: 'cy@q.example', number: 'N-2' });
  const says = { kind: 'order_status_changed', visitor: 'till' };
  insert({ ...says, ...at(3), number: 'N-1', status: 'sent' });
  insert({ ...says, ...at(2), number: 'N-1', status: 'packed', email: 'cy@q.example' });
  insert({ ...says, ...at(2), number: 'N-2', status: 'packed', email: 'bo@q.example' });
  const told = (owner: string) =>
    carafe.tables.events
      .of('s', owner)
      .map((event) => ('status' in event ? `${event.number} ${event.status ?? ''}` : event.kind));
  expect(told('bo@q.example')).toEqual(['order_placed', 'N-1 packed', 'N-2 packed', 'N-1 sent']);
  expect(told('cy@q.example')).toEqual(['order_placed', 'N-1 packed', 'N-2 packed']);
});

test('what is said of several orders stands in the order of time among what the person did', () => {
  const at = (minute: number) => ({ at: `2026-11-22T10:${String(minute).padStart(2, '0')}:00Z` });
  const lines = [{ sku: 'S', name: 'Poppy', price: 2, quantity: 1 }];
  const dee = { email: 'dee@q.example' };
  const order = { ...dee, kind: 'order_placed', currency: 'GBP', lines };
  const says = { kind: 'order_status_changed', visitor: 'till' };
  insert({ ...order, ...at(1), number: 'M-1' });
  insert({ ...says, ...at(9), number: 'M-1', status: 'sent' });
  insert({ ...order, ...at(3), number: 'M-2' });
  insert({ ...says, ...at(5), number: 'M-2', status: 'packed' });
  insert({ ...says, ...at(2), number: 'M-1', status: 'packed' });
  insert({ ...dee, kind: 'viewed', sku: 'S', ...at(7) });
  const minutes = () =>
    carafe.tables.events.of('s', dee.email).map((event) => Number(event.at.slice(14, 16)));
  expect(minutes()).toEqual([1, 2, 3, 5, 7, 9]);
  // Of one instant: the order in which they were received, whoever said it.
  insert({ ...dee, kind: 'viewed', sku: 'T', ...at(5) });
  insert({ ...says, ...at(5), number: 'M-1', status: 'late' });
  const ofFive = carafe.tables.events
    .of('s', dee.email)
    .flatMap((event) => (event.at.includes('10:05') ? event.kind : []));
  expect(ofFive).toEqual(['order_status_changed', 'viewed', 'order_status_changed']);
  expect(minutes()).toEqual([1, 2, 3, 5, 5, 5, 7, 9]);
});

test('so many events are all there are, or are not', () => {
  expect(carafe.tables.events.isOnly(n)).toBe(true);
  expect(carafe.tables.events.isOnly(n - 1)).toBe(false);
});
