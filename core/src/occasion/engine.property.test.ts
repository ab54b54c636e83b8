import fc from 'fast-check';
import { foldEvents, inOrder, type ShopEvent } from '../record';
import type { Effect } from './effects';
import { advance } from './engine';
import type { Occasion, Step } from './occasion';
import { replayPerson } from './replay';
import { mailKey, NEW_STATE, type PersonState } from './state';
import {
  added,
  at,
  became,
  guard,
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
const FROM = at('01T00:00');
const UNTIL = at('29T00:00');

const times = fc.integer({ min: 0, max: 27 * 24 * 4 }).map((n) => FROM + n * (HOUR / 4));
const story = fc
  .array(
    fc.record({
      time: times,
      kind: fc.constantFrom('added', 'added', 'ordered', 'became', 'viewed', 'consent'),
      sku: fc.constantFrom('A', 'B', 'C'),
    }),
    { maxLength: 25 },
  )
  .map((given): ShopEvent[] => {
    let orders = 0;
    return given
      .map(({ time, kind, sku }): ShopEvent => {
        if (kind === 'added') return added(time, sku);
        if (kind === 'ordered') return ordered(time, `O${++orders}`);
        if (kind === 'became') return became(time, 'Sent', `O${Math.max(1, orders)}`);
        if (kind === 'viewed') return viewed(time, sku);
        return { ...viewed(time), kind: 'consent_changed', consent: sku !== 'A' } as ShopEvent;
      })
      .sort(inOrder);
  });

let ids = 0;
const leaf: fc.Arbitrary<Step> = fc.oneof(
  fc
    .tuple(fc.integer({ min: 0, max: 30 }), fc.constantFrom('minutes', 'hours', 'days'))
    .map(([n, unit]) => wait(`s${++ids}`, n, unit as 'hours')),
  fc
    .constantFrom('08:00', '23:30')
    .map((time): Step => ({ id: `s${++ids}`, kind: 'wait', until: { time } })),
  fc
    .tuple(
      fc.constantFrom(
        'cart is filled',
        'not occasion.ordered_since',
        'cart.count >= 2',
        'broken (',
      ),
      fc.constantFrom('stop', 'skip', 'ask_again'),
    )
    .map(([when, otherwise]) => guard(`s${++ids}`, when, otherwise as 'stop')),
  fc.constantFrom('marketing', 'service').map((mail) => send(`s${++ids}`, { mail })),
);
const steps = fc.array(leaf, { maxLength: 6 });
const start = fc.constantFrom<Occasion['start']>(
  { kind: 'cart_left' },
  { kind: 'order_placed', which: 'any' },
  { kind: 'order_status', status: 'Sent', held: { n: 0, unit: 'hours' } },
  { kind: 'looked_at', after: { n: 6, unit: 'hours' } },
);
const anyOccasion = fc
  .tuple(start, steps, steps, fc.integer({ min: 0, max: 3 }), fc.constantFrom(0, 3))
  .map(([begin, row, inside, priority, rest_days]) =>
    occasion({
      ...{ start: begin, priority, whom: { guests: true, rest_days } },
      steps: [
        ...row,
        {
          ...{ id: `s${++ids}`, kind: 'branch', otherwise: [] },
          ways: [{ when: 'cart.count >= 2', steps: inside }],
        },
      ],
    }),
  );

const mailsOf = (effects: readonly Effect[]) =>
  effects.flatMap((one) => (one.kind === 'mail' ? [one] : []));

test('a replay gives the same each time, and never two mails for one cause and step', () => {
  fc.assert(
    fc.property(
      story,
      fc.array(anyOccasion, { minLength: 1, maxLength: 3 }),
      (events, occasions) => {
        const world = worldOf(...occasions);
        const options = { world, moments: momentsFor(), dated: [], from: FROM, until: UNTIL };
        const given = { data: person(events), events };
        const once = replayPerson(given, options);
        expect(replayPerson(given, options)).toEqual(once);
        const keys = mailsOf(once.effects).map(({ key }) => key);
        expect(new Set(keys).size).toBe(keys.length);
        for (const { key, occasion: id, cause, step } of mailsOf(once.effects))
          expect(key).toBe(mailKey(id, cause, step.id));
      },
    ),
    { numRuns: 150 },
  );
});

test('time in one stretch gives what it gives in many', () => {
  fc.assert(
    fc.property(story, anyOccasion, fc.array(times, { maxLength: 6 }), (events, one, cuts) => {
      const world = worldOf(one);
      const moments = momentsFor();
      const data = person(events);
      const moment = (time: number) => moments.moment({ data, at: time });
      const begin = advance(
        NEW_STATE,
        { kind: 'happening', moment: moment(UNTIL - 8 * 24 * HOUR) },
        world,
      );
      const walk = (stops: number[]) => {
        let state: PersonState = begin.state;
        const effects: Effect[] = [];
        for (const until of stops) {
          const told = advance(state, { kind: 'time', until, moment }, world);
          ({ state } = told);
          effects.push(...told.effects);
        }
        return { state, effects };
      };
      const end = UNTIL + 40 * 24 * HOUR;
      const sorted = cuts.map((cut) => cut + 30 * 24 * HOUR).sort((a, b) => a - b);
      expect(walk([...sorted, end])).toEqual(walk([end]));
    }),
    { numRuns: 150 },
  );
});

test('no mail whose guard did not hold at that instant, whose cart is gone, or without consent', () => {
  fc.assert(
    fc.property(story, steps, (events, row) => {
      const world = worldOf(
        occasion({ steps: [...row, guard('last', 'cart.count >= 2'), send('mail')] }),
      );
      const moments = momentsFor();
      const { effects } = replayPerson(
        { data: person(events), events },
        { world, moments, dated: [], from: FROM, until: UNTIL },
      );
      for (const mail of mailsOf(effects)) {
        const then = foldEvents(events.filter((event) => Date.parse(event.at) <= mail.at));
        expect(then.cart?.lines.length ?? 0).toBeGreaterThan(0);
        if (mail.step.id === 'mail') expect(then.cart?.lines.length).toBeGreaterThanOrEqual(2);
        if (mail.step.mail === 'marketing') expect(then.consent?.given ?? true).toBe(true);
      }
    }),
    { numRuns: 150 },
  );
});

test('between the first mails of two ways of one occasion lies the rest that it asks for', () => {
  const days = fc.integer({ min: 1, max: 9 });
  fc.assert(
    fc.property(story, start, days, days, (events, begin, waits, rest_days) => {
      const steps = [wait('w', waits, 'days'), send('mail', { mail: 'service' })];
      const one = occasion({ start: begin, whom: { guests: true, rest_days }, steps });
      const options = { moments: momentsFor(), dated: [], from: FROM, until: UNTIL };
      const given = { data: person(events), events };
      const { effects } = replayPerson(given, { ...options, world: worldOf(one) });
      const made = mailsOf(effects).map((mail) => mail.at);
      made.slice(1).forEach((time, i) => {
        expect(time - (made[i] ?? 0)).toBeGreaterThanOrEqual(rest_days * 24 * HOUR);
      });
    }),
    { numRuns: 300 },
  );
});

test('unrelated inputs may come in any order: occasions do not disturb each other', () => {
  fc.assert(
    fc.property(story, anyOccasion, anyOccasion, (events, one, other) => {
      const options = {
        ...{ moments: momentsFor({ most_a_day: 0, most_a_week: 0 }), dated: [] },
        ...{ from: FROM, until: UNTIL },
      };
      const given = { data: person(events), events };
      const both = replayPerson(given, { ...options, world: worldOf(one, other) }).effects;
      const alone = replayPerson(given, { ...options, world: worldOf(one) }).effects;
      expect(both.filter(({ occasion: id }) => id === 'o1')).toEqual(alone);
    }),
    { numRuns: 150 },
  );
});

test('a state that is used up gives what one gives that is kept', () => {
  fc.assert(
    fc.property(story, fc.array(anyOccasion, { maxLength: 3 }), (events, occasions) => {
      const world = worldOf(...occasions);
      const moments = momentsFor();
      const walk = (usesUp: boolean) => {
        let state: PersonState = { ...NEW_STATE, settled: {} };
        const effects: Effect[] = [];
        events.forEach((event, i) => {
          const data = person(events.slice(0, i + 1));
          const moment = (time: number) =>
            moments.moment({ data, at: time, happening: { kind: 'person', event } });
          const time = Date.parse(event.at);
          for (const input of [
            { kind: 'time', until: time - 1, moment } as const,
            { kind: 'happening', moment: moment(time) } as const,
          ]) {
            const before = usesUp ? null : structuredClone(state);
            const told = advance(state, input, world, { usesUp });
            if (before) expect(state).toEqual(before);
            ({ state } = told);
            effects.push(...told.effects);
          }
        });
        return { state, effects };
      };
      expect(walk(true)).toEqual(walk(false));
    }),
    { numRuns: 100 },
  );
});
