import fc from 'fast-check';
import type { Fields } from '../formula';
import { inOrder, type ShopEvent } from '../record';
import type { Happening } from './define';
import type { Occasion } from './occasion';
import { planOf } from './plan';
import { replayPerson, type Dated } from './replay';
import { STARTS } from './starts';
import type { World } from './plan';
import { added, at, became, guard, momentsFor, occasion, ordered, person } from './testing';
import { send, viewed, wait } from './testing';

/** How many worlds are made up for each pair of kinds of start; more are asked for by hand. */
const WORLDS = Number(process.env['CARAFE_WORLDS'] ?? 6);
const HOUR = 3_600_000;
const FROM = at('01T00:00');
const UNTIL = at('29T00:00');

const time = fc.integer({ min: 0, max: 27 * 24 * 4 }).map((n) => FROM + n * (HOUR / 4));
const story = fc
  .array(
    fc.record({
      time,
      kind: fc.constantFrom('added', 'checkout', 'ordered', 'sent', 'viewed', 'cancelled'),
      sku: fc.constantFrom('A', 'B'),
    }),
    { maxLength: 20 },
  )
  .map((steps): ShopEvent[] => {
    let orders = 0;
    return steps.flatMap((step): ShopEvent[] => {
      const number = `O${Math.max(1, orders)}`;
      const head = viewed(step.time, step.sku);
      switch (step.kind) {
        case 'added':
          return [added(step.time, step.sku)];
        case 'checkout':
          return [{ ...head, kind: 'checkout_started' } as ShopEvent];
        case 'ordered':
          return [ordered(step.time, `O${++orders}`)];
        case 'sent':
          return [became(step.time, 'Sent', number)];
        case 'cancelled':
          return [{ ...head, kind: 'order_cancelled', number } as ShopEvent];
        default:
          return [head];
      }
    });
  })
  .map((events) => events.sort(inOrder));

const SEGMENTS = [
  { name: 'Buyers', formula: 'person.orders_count >= 1' },
  { name: 'Carts', formula: 'cart is filled' },
];

/** A start of each kind, as different as it can be. */
const starts: Record<keyof typeof STARTS, fc.Arbitrary<Occasion['start']>> = {
  cart_left: fc.constant({ kind: 'cart_left' }),
  checkout_left: fc.constant({ kind: 'checkout_left' }),
  order_placed: fc.constantFrom(
    { kind: 'order_placed', which: 'any' },
    { kind: 'order_placed', which: 'first' },
  ),
  order_status: fc
    .constantFrom(0, 5)
    .map((n) => ({ kind: 'order_status', status: 'Sent', held: { n, unit: 'hours' } })),
  looked_at: fc.constant({ kind: 'looked_at', after: { n: 6, unit: 'hours' } }),
  product_changed: fc.constantFrom(
    { kind: 'product_changed', change: 'cheaper', among: 'either' },
    { kind: 'product_changed', change: 'back', among: 'cart' },
  ),
  post_published: fc
    .constantFrom('furrow', 'sow')
    .map((feed) => ({ kind: 'post_published', feed })),
  date_of_person: fc.constantFrom(
    { kind: 'date_of_person', field: 'joined', days: 3, yearly: true, time: '09:00' },
    { kind: 'date_of_person', field: 'last_order_at', days: 2, yearly: false, time: '10:00' },
  ),
  segment_changed: fc
    .tuple(fc.constantFrom('Buyers', 'Carts'), fc.constantFrom('entered', 'left'))
    .map(([segment, change]) => ({ kind: 'segment_changed', segment, change })),
  at_time: fc.constantFrom('shop', 'person').map((clock) => ({
    ...{ kind: 'at_time', time: '2026-11-10T06:03', clock },
  })),
  repeating: fc.constantFrom(
    { kind: 'repeating', every: 'week', days: [4], time: '09:00', clock: 'shop' },
    { kind: 'repeating', every: 'month', day: 3, time: '08:00', clock: 'person' },
  ),
  by_hand: fc.constant({ kind: 'by_hand' }),
} as Record<string, fc.Arbitrary<Occasion['start']>>;

const steps = fc
  .tuple(fc.constantFrom(0, 2, 30), fc.boolean())
  .map(([hours, asks]) => [
    ...(hours > 0 ? [wait('wait', hours)] : []),
    ...(asks ? [guard('guard', 'not occasion.ordered_since')] : []),
    send('first'),
    wait('later', 1, 'days'),
    send('second', { mail: 'service' }),
  ]);

const occasionOf = (kind: keyof typeof STARTS) =>
  fc
    .tuple(starts[kind], steps, fc.integer({ min: 0, max: 3 }))
    .map(([start, row, priority]) =>
      occasion({ start, steps: row, priority, whom: { guests: true } }),
    );

/** What happens to the whole shop: times and choices of each occasion, products, posts. */
const dates = (ids: readonly string[]): fc.Arbitrary<Dated[]> =>
  fc
    .array(
      fc.record({
        time,
        id: fc.constantFrom(...ids),
        kind: fc.constantFrom('time', 'time', 'hand', 'product', 'post'),
        which: fc.boolean(),
      }),
      { maxLength: 8 },
    )
    .map((given) =>
      given
        .map(({ time: when, id, kind, which }): Dated => {
          const name = new Date(when).toISOString().slice(0, 16);
          const happening: Happening =
            kind === 'time'
              ? { kind, occasion: id, name, wall: when }
              : kind === 'hand'
                ? { kind, occasion: id, name }
                : kind === 'product'
                  ? { kind, change: which ? 'cheaper' : 'back', sku: 'A' }
                  : { kind: 'post', feed: which ? 'furrow' : 'sow', post: name };
          return { at: when, happening };
        })
        .sort((a, b) => a.at - b.at),
    );

const worldOf = (occasions: Record<string, Occasion>): World => {
  const plans = Object.entries(occasions).map(([id, one]) => planOf(id, 1, one, 0));
  return { plans, plan: (id) => plans.find((one) => one.id === id) ?? null };
};

const PRODUCTS = new Map([['A', { sku: 'A', name: 'A', price: 10 } as unknown as Fields]]);

const kinds = Object.keys(STARTS) as (keyof typeof STARTS)[];
const pairs = kinds.flatMap((a, i) => kinds.slice(i).map((b) => [a, b] as const));

test.each(pairs)(
  'a set of occasions does to each person what each alone does: %s beside %s',
  (a, b) => {
    fc.assert(
      fc.property(
        story,
        occasionOf(a),
        occasionOf(b),
        fc.constantFrom(...kinds).chain(occasionOf),
        dates(['a', 'b', 'c']),
        (events, one, other, third, dated) => {
          const set = { a: one, b: other, c: third };
          const rules = { most_a_day: 0, most_a_week: 0 };
          const given = {
            data: person(events, { joined: '2019-11-05' }),
            events,
          };
          const replay = (occasions: Record<string, Occasion>) =>
            replayPerson(given, {
              ...{ moments: momentsFor(rules, SEGMENTS, () => PRODUCTS), from: FROM, until: UNTIL },
              ...{ world: worldOf(occasions), dated },
            }).effects;
          const together = replay(set);
          for (const id of ['a', 'b', 'c'] as const)
            expect(together.filter((effect) => effect.occasion === id)).toEqual(
              replay({ [id]: set[id] }),
            );
          // Whatever comes by the clock comes by the clock of its own occasion alone.
          for (const { kind, occasion: id, cause } of together)
            if (kind === 'entered' && cause.startsWith('time '))
              expect(
                dated.some(
                  ({ happening: its }) =>
                    its.kind === 'time' && its.occasion === id && cause === `time ${its.name}`,
                ),
              ).toBe(true);
        },
      ),
      { numRuns: WORLDS },
    );
  },
);
