import type { Occasion } from '@carafe/core/occasion';
import { sendingServer, type TestServer, stageOf } from '../testingOccasions';

let carafe: TestServer;
sendingServer((made) => {
  carafe = made;
});
const stage = stageOf(() => carafe);
const { api, event, agree, add, order, move, template, send, on, republish, states } = stage;

const MAUD = 'maud@post.example';
const ANYBODY = { guests: true };
const atTime = (time: string): Occasion['start'] => ({ kind: 'at_time', time, clock: 'shop' });
const weekly: Occasion['start'] = {
  ...{ kind: 'repeating', every: 'week', days: [2], time: '12:00', clock: 'shop' },
};
const entered = (segment: string): Occasion['start'] => ({
  ...{ kind: 'segment_changed', segment, change: 'entered' },
});
const segment = async (name: string, formula: string) =>
  expect((await api('post', '/shops/s/segments', { name, formula })).status).toBe(201);
const noLimits = async () => {
  const { rules } = (await api('get', '/shops/s/occasions')).body as { rules: object };
  await api('put', '/shops/s/mail-rules', { ...rules, most_a_day: 0, most_a_week: 0 });
};

// The clock of the tests begins on a Tuesday at 10:00 by the shop's clock.
test('two mailings at two times each go at their own time, and none again with another or with a weekly one', async () => {
  await noLimits();
  await agree(MAUD);
  const ids = await Promise.all(
    ['Early', 'Late', 'Weekly', 'Next day'].map((name) => template(name)),
  );
  const [early = '', late = '', week = '', next = ''] = ids;
  await on({ start: atTime('2026-11-24T10:03'), steps: [send('early', early)] });
  await on({ start: atTime('2026-11-24T10:53'), steps: [send('late', late)] });
  await on({ start: weekly, steps: [send('weekly', week)] });
  await move(4);
  expect(await states()).toEqual(['maud early sent']);
  await move(50);
  expect(await states()).toEqual(['maud early sent', 'maud late sent']);
  await move(90);
  expect(await states()).toEqual(['maud early sent', 'maud late sent', 'maud weekly sent']);
  await on({ start: atTime('2026-11-25T09:00'), steps: [send('next', next)] });
  await move(24 * 60);
  expect(await states()).toHaveLength(4);
});

test('who was in a segment from the start has not entered it when an occasion begins to watch it', async () => {
  await noLimits();
  await segment('Buyers', 'person.orders_count >= 1');
  await segment('Agreed', 'person.consent');
  const words = await template('Welcome');
  const id = await on({ start: entered('Buyers'), steps: [send('a', words)] });
  await agree(MAUD);
  await republish(id, (occasion) => ({ ...occasion, start: entered('Agreed') }));
  expect(await states()).toEqual([]);
  // Whoever enters it from now on has.
  await agree('nora@post.example');
  await carafe.sender.kick();
  expect(await states()).toEqual([]);
  await event('viewed', 'olga@post.example', { sku: 'A' });
  await agree('olga@post.example');
  await carafe.sender.kick();
  expect(await states()).toEqual(['olga a sent']);
});

test('an entry between two looks is not lost by publishing other words', async () => {
  await segment('Quiet', 'cart is filled and cart.updated_at < add_days(now, -1)');
  const words = await template('Quiet');
  const id = await on({ start: entered('Quiet'), steps: [send('a', words)] });
  await agree(MAUD);
  await add(MAUD);
  carafe.wait(25);
  await republish(id, (occasion) => ({ ...occasion, name: 'Renamed' }));
  expect(await states()).toEqual(['maud a sent']);
});

test('nobody has entered a segment because its condition was changed, or while nothing watched it', async () => {
  await noLimits();
  await segment('Buyers', 'person.orders_count >= 9');
  const words = await template('Welcome');
  const id = await on({ start: entered('Buyers'), steps: [send('a', words)] });
  await agree(MAUD);
  await add(MAUD);
  await order(MAUD, 'N1');
  await api('put', '/shops/s/segments/Buyers', {
    ...{ name: 'Buyers', formula: 'person.orders_count >= 1' },
  });
  await carafe.runner.lookAt('segment_changed');
  await agree('nora@post.example');
  await add('nora@post.example');
  await api('post', `/occasions/${id}/off`);
  await order('nora@post.example', 'N2');
  carafe.wait(1);
  await republish(id, (occasion) => occasion);
  await carafe.runner.lookAt('segment_changed');
  await carafe.sender.kick();
  expect(await states()).toEqual([]);
});

const REMEMBERS: [string, Occasion['start']][] = [
  ['a cart', { kind: 'cart_left' }],
  ['a checkout', { kind: 'checkout_left' }],
  ['an order', { kind: 'order_placed', which: 'any' }],
  ['a status', { kind: 'order_status', status: 'Received', held: { n: 0, unit: 'hours' } }],
  [
    'a date',
    { kind: 'date_of_person', field: 'last_order_at', days: 0, yearly: false, time: '00:00' },
  ],
];
test.each(REMEMBERS)(
  'publishing a start of another kind starts nothing by what was before: %s',
  async (_, start) => {
    await noLimits();
    const words = await template('Words');
    const id = await on({ start: { kind: 'by_hand' }, steps: [send('a', words)] });
    await agree(MAUD);
    await add(MAUD);
    await event('checkout_started', MAUD);
    if (start.kind !== 'cart_left' && start.kind !== 'checkout_left') await order(MAUD, 'N1');
    carafe.wait(2);
    await carafe.runner.tick();
    await republish(id, (occasion) => ({ ...occasion, start, whom: ANYBODY }));
    await event('viewed', MAUD, { sku: 'B' });
    await carafe.sender.kick();
    expect(await states()).toEqual([]);
  },
);

test('a first purchase is answered once per person, though the first order was cancelled', async () => {
  await noLimits();
  const [one, two] = [await template('Welcome'), await template('More')];
  await on({
    start: { kind: 'order_placed', which: 'first' },
    steps: [
      send('one', one),
      { id: 'w', kind: 'wait', for: { n: 5, unit: 'days' } },
      send('two', two),
    ],
  });
  await agree(MAUD);
  await add(MAUD);
  await order(MAUD, 'N1');
  await carafe.sender.kick();
  await event('order_cancelled', MAUD, { number: 'N1' });
  await move(60);
  await add(MAUD);
  await order(MAUD, 'N2');
  await move(7 * 24 * 60);
  expect(await states()).toEqual(['maud one sent']);
});

test('an order that was cancelled before anything went leaves the welcome to the next one', async () => {
  await noLimits();
  const one = await template('Welcome');
  await on({
    start: { kind: 'order_placed', which: 'first' },
    steps: [{ id: 'w', kind: 'wait', for: { n: 1, unit: 'days' } }, send('one', one)],
  });
  await agree(MAUD);
  await add(MAUD);
  await order(MAUD, 'N1');
  await event('order_cancelled', MAUD, { number: 'N1' });
  await add(MAUD);
  await order(MAUD, 'N2');
  await move(25 * 60);
  expect(await states()).toEqual(['maud one sent']);
});

test('a guest who gives a second address gets no email about the same cart again', async () => {
  await noLimits();
  const words = await template('You left this');
  await on({ start: { kind: 'cart_left' }, steps: [send('a', words, { mail: 'service' })] });
  const line = { sku: 'A', name: 'A', price: 10, quantity: 1, currency: 'EUR' };
  const tell = (more: object) =>
    api('post', '/events', [
      { at: new Date(Date.parse('2026-11-24T09:00:00Z')).toISOString(), shop: 's', ...more },
    ]);
  await tell({
    id: 'g0',
    kind: 'viewed',
    sku: 'A',
    visitor: 'v',
    email: 'first@post.example',
    at: '2026-11-24T08:00:00Z',
  });
  await tell({ id: 'g1', kind: 'cart_added', visitor: 'v', ...line });
  await carafe.runner.idle();
  await move(90);
  expect(await states()).toEqual(['first a sent']);
  await tell({
    id: 'g2',
    kind: 'viewed',
    sku: 'A',
    visitor: 'v',
    email: 'second@post.example',
    at: '2026-11-24T10:20:00Z',
  });
  await carafe.runner.idle();
  await move(90);
  expect(await states()).toEqual(['first a sent']);
});
