import { readEvent } from '../record';
import { addFigures, countIn, daysFrom, noFigures } from './figures';
import { countPerson, noRates } from './rates';
import { chances, drawer, shoppersOf } from './rehearse';
import { replayPerson } from './replay';
import {
  added,
  at,
  became,
  momentsFor,
  occasion,
  ordered,
  person,
  send,
  viewed,
  wait,
  worldOf,
} from './testing';

const HOUR = 3_600_000;
const WEEK = 168 * HOUR;

/** Ten people who come on Tuesdays at ten, half of them to buy. */
function past() {
  const rates = noRates(2 * WEEK);
  for (let i = 0; i < 10; i++) {
    const begin = at('03T10:00');
    const bought = [
      added(begin, 'A'),
      added(begin + 60_000, 'B'),
      ordered(begin + HOUR, `O${i}`),
      became(begin + 49 * HOUR, 'Sent', `O${i}`),
    ];
    countPerson(rates, i % 2 === 0 ? bought : [viewed(begin), viewed(begin + WEEK)], 0);
  }
  return rates;
}

test('rates: visits by hour of the week, what came of them, how many lines, how long until the order', () => {
  const rates = past();
  expect([rates.people, rates.visits, rates.looked, rates.left, rates.ordered]).toEqual([
    ...[10, 15, 10, 0, 5],
  ]);
  const tuesdayAtTen = 24 + 10;
  expect(rates.hours[tuesdayAtTen]).toBe(15);
  expect(rates.lines[2]).toBe(5);
  expect(rates.delays.map((hours) => Math.round(hours * 60))).toEqual([59, 59, 59, 59, 59]);
  expect(rates.statuses[0]).toEqual({ status: 'Sent', hours: 48 });
});

test('a rehearsal makes up visits at the shop’s own rates; one seed gives one story', () => {
  const coming = {
    ...{ rates: past(), seed: 7, from: at('16T00:00'), until: at('16T00:00') + 8 * WEEK },
    ...{ shop: 's', currency: 'GBP', ahead: 0 },
  };
  const make = shoppersOf(coming);
  const all = Array.from({ length: 400 }, (_, id) => make({ id, email: `p${id}@s.example` }));
  expect(shoppersOf(coming)({ id: 3, email: 'p3@s.example' })).toEqual(all[3]);
  const events = all.flat();
  for (const event of events.slice(0, 500)) expect(readEvent(event).ok).toBe(true);
  const of = (kind: string) => events.filter((event) => event.kind === kind);
  // 15 visits of 10 people in 2 weeks are 0.75 a person and week; a third of them order.
  expect(of('viewed').length / (400 * 8)).toBeGreaterThan(0.65);
  expect(of('viewed').length / (400 * 8)).toBeLessThan(0.85);
  expect(of('order_placed').length / of('viewed').length).toBeGreaterThan(0.27);
  expect(of('order_placed').length / of('viewed').length).toBeLessThan(0.4);
  for (const event of of('viewed')) expect(new Date(event.at).toISOString()).toMatch(/T10:/);
});

test('chances are even, and a drawer draws by weight', () => {
  const chance = chances(1);
  const draw = drawer([0, 1, 3]);
  const counts = [0, 0, 0];
  for (let i = 0; i < 4000; i++) {
    const place = draw(chance());
    counts[place] = (counts[place] ?? 0) + 1;
  }
  expect(counts[0]).toBe(0);
  expect((counts[2] ?? 0) / 4000).toBeGreaterThan(0.72);
  expect((counts[2] ?? 0) / 4000).toBeLessThan(0.78);
});

test('figures: mails a day, people reached, why not, two within a day; those of two halves add up', () => {
  const world = worldOf(occasion({ steps: [wait('w', 3), send('a'), wait('v', 6), send('b')] }));
  const options = {
    ...{ world, moments: momentsFor({ most_a_day: 0 }), dated: [] },
    ...{ from: at('01T00:00'), until: at('20T00:00') },
  };
  const stories = [
    [added(at('10T10:00'))],
    [added(at('10T10:00')), ordered(at('10T12:00'))],
    [added(at('10T10:00')), ordered(at('10T10:30'))],
    [],
  ];
  const all = noFigures();
  const halves = [noFigures(), noFigures()];
  const dayOf = daysFrom(options.from, 'UTC');
  stories.forEach((events, id) => {
    const replayed = replayPerson({ data: person(events), events }, options);
    countIn(all, id, replayed, dayOf);
    const half = halves[id % 2];
    if (half) countIn(half, id, replayed, dayOf);
  });
  expect([all.people, all.entered, all.reached, all.mails]).toEqual([4, 2, 1, 2]);
  expect(all.days.map(({ step, counts }) => [step, counts[9]])).toEqual([
    ['a', 1],
    ['b', 1],
  ]);
  // From noon on, the first day is the half that is left of it; the days are those of the clocks there.
  const counted = daysFrom(Date.parse('2026-11-01T20:00:00Z'), 'America/New_York');
  expect(
    ['2026-11-02T04:59:00Z', '2026-11-02T05:00:00Z'].map((one) => counted(Date.parse(one))),
  ).toEqual([0, 1]);
  expect(all.per_person.slice(0, 3)).toEqual([3, 0, 1]);
  expect(all.two_a_day).toEqual({ count: 1, people: [0] });
  expect(all.stops).toEqual([{ occasion: 'o1', step: null, why: 'gone', count: 1, people: [1] }]);
  expect(all.ordered_before).toBe(1);
  expect(all.returns.carts).toBe(3);
  expect(all.returns.hours.slice(0, 3)).toEqual([1, 0, 1]);
  const [a = noFigures(), b = noFigures()] = halves;
  const together = addFigures(a, b);
  expect({ ...together, days: [] }).toEqual({ ...all, days: [] });
});
