import fc from 'fast-check';
import { foldHeap, ownerOf, readEvent, type Known, type ShopEvent } from '@carafe/core/record';
import { testServer } from '../testing';
import { EventsService } from './service';
import { inlineJobs } from '../jobs/inline';
import { jobHandlers } from '../jobs/handlers';

// However events arrive (posted one by one, in heaps, turned round, twice, or in a file), the people
// that they come to are the same, and are those that the pure fold gives.

type Server = Awaited<ReturnType<typeof testServer>>;
let carafe: Server;
let tables: Server['tables'];
let posted: EventsService;
let shops = 0;
beforeAll(async () => {
  carafe = await testServer();
  ({ tables } = carafe);
  const jobs = inlineJobs(jobHandlers(carafe.store, tables));
  posted = new EventsService(
    jobs,
    carafe.updates,
    () => new Date('2026-11-24T09:00:00Z'),
    () => undefined,
  );
});
afterAll(() => carafe.store.close());

function newShop(): string {
  const id = `s${++shops}`;
  tables.shops.insert({
    ...{ id, name: id, url: 'https://s.example', address: '', logo: '' },
    ...{ currency: 'EUR', timezone: 'Europe/Berlin', locale: 'de-DE' },
  });
  return id;
}

const who = fc.oneof(
  fc.record({ email: fc.constantFrom('a@x.example', 'B@x.example') }),
  fc.record({ visitor: fc.constantFrom('v1', 'v2') }),
  fc.record({
    email: fc.constantFrom('a@x.example', 'b@x.example'),
    visitor: fc.constantFrom('v1', 'v2'),
  }),
);
const what = fc.oneof(
  fc.record({
    kind: fc.constant('cart_added'),
    currency: fc.constant('EUR'),
    sku: fc.constantFrom('P', 'Q'),
    name: fc.constant('Pot'),
    price: fc.constantFrom(1, 2.35),
    quantity: fc.integer({ min: 1, max: 3 }),
    properties: fc.constantFrom([], [{ name: 'Label', value: ['x', ''] }]),
  }),
  fc.record({ kind: fc.constant('cart_removed'), sku: fc.constantFrom('P', 'Q') }),
  fc.record({
    kind: fc.constant('order_placed'),
    currency: fc.constant('EUR'),
    lines: fc.constant([{ sku: 'P', name: 'Pot', price: 3, quantity: 1 }]),
  }),
  fc.record({ kind: fc.constant('order_cancelled'), number: fc.constantFrom('N1', 'N2') }),
  fc.record({
    kind: fc.constant('order_status_changed'),
    number: fc.constantFrom('N0', 'N1', 'N2', 'N3'),
    status: fc.constantFrom('Packed', 'Sent'),
  }),
  fc.record({ kind: fc.constant('consent_changed'), consent: fc.boolean() }),
);
const events = fc
  .array(fc.tuple(who, what, fc.integer({ min: 0, max: 59 })), { minLength: 1, maxLength: 14 })
  .map((all) =>
    all.map(([person, event, minute], i) => ({
      id: `e${i}`,
      // No two at one instant: those count as they were received.
      at: `2026-11-01T09:${String(minute).padStart(2, '0')}:${String(i + 10)}+01:00`,
      ...person,
      ...(event.kind === 'order_placed' && { number: `N${i}` }),
      ...event,
    })),
  );

/** The people of a shop, as they are kept. */
const people = (shop: string) =>
  Object.fromEntries(
    [...tables.people.all(shop)].map(({ person, shopper }) => [
      person.email as string,
      JSON.parse(JSON.stringify({ person, shopper })) as unknown,
    ]),
  );

/** The same by the pure functions alone. */
function byFolding(given: readonly object[], shop: string) {
  const all = given.flatMap((one): ShopEvent[] => {
    const read = readEvent({ ...one, shop });
    return read.ok ? [read.event] : [];
  });
  const known = all.flatMap(({ visitor, email, at }): Known[] =>
    visitor !== undefined && email !== undefined ? [{ visitor, email, at }] : [],
  );
  const owned = new Map<string, ShopEvent[]>();
  for (const event of all) {
    const owner =
      event.email ??
      ownerOf(
        event.at,
        known.filter((k) => k.visitor === event.visitor),
      );
    if (owner !== undefined) owned.set(owner, [...(owned.get(owner) ?? []), event]);
  }
  // What anybody says of an order reaches it.
  for (const [owner, own] of owned) {
    const placed = own.flatMap((e) => (e.kind === 'order_placed' ? [e.number] : []));
    const said = all.filter(
      (e) => 'number' in e && e.kind !== 'order_placed' && placed.includes(e.number),
    );
    owned.set(owner, [...new Set([...own, ...said])]);
  }
  return new Map([...owned].map(([email, own]) => [email, foldHeap(own)]));
}

test('posted in any heaps and order, twice, events come to the same people', async () => {
  await fc.assert(
    fc.asyncProperty(
      events,
      fc.array(fc.nat(13), { maxLength: 14 }),
      fc.integer({ min: 1, max: 5 }),
      async (all, order, size) => {
        const [straight, turned] = [newShop(), newShop()];
        await posted.take(all.map((e) => ({ ...e, shop: straight })));
        const shuffled = [...order.flatMap((i) => all[i] ?? []), ...[...all].reverse()];
        for (let i = 0; i < shuffled.length; i += size)
          await posted.take(shuffled.slice(i, i + size).map((e) => ({ ...e, shop: turned })));
        expect(people(turned)).toEqual(people(straight));
        const folded = byFolding(all, straight);
        expect(Object.keys(people(straight)).sort()).toEqual([...folded.keys()].sort());
        for (const { person, shopper } of tables.people.all(straight))
          expect(shopper).toEqual(folded.get(person.email as string));
      },
    ),
    { numRuns: 60 },
  );
});

test('from a file, events come to the same people; gone back from, to none', async () => {
  await fc.assert(
    fc.asyncProperty(events, async (all) => {
      const [straight, filed] = [newShop(), newShop()];
      await posted.take(all.map((e) => ({ ...e, shop: straight })));
      const source = carafe.newId();
      tables.sources.insert(
        {
          ...{
            id: source,
            shop: filed,
            name: 'E',
            kind: 'events',
            target: 'events',
            formula_name: 'events',
          },
          ...{ address: null, every_minutes: null, fresh_hours: 1, next_fetch_at: null },
        },
        '2026-01-01',
      );
      const text = [...all, ...all].map((e) => JSON.stringify({ ...e, shop: filed })).join('\n');
      const { imports } = carafe;
      const one = await imports.receiveText(imports.sourceOf(source), 'e.ndjson', text);
      const taken = await imports.takeBySelf(one, { format: 'ndjson' });
      expect(taken.counts).toMatchObject({ new: all.length, unchanged: all.length });
      expect(people(filed)).toEqual(people(straight));
      await imports.undo(one.id);
      expect(people(filed)).toEqual({});
    }),
    { numRuns: 30 },
  );
});
