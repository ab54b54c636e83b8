import fc from 'fast-check';
import { instantOfWall, wallIn } from '../formula';
import { nextTime, sayWeekdays } from './clockTime';
import { after, durationOf, sayDuration } from './duration';
import { atTime, inFiveMinutes, wallOf, weeksLater } from './starts/atTime';
import { FIRST_RULES } from './shopRules';
import { nextWall } from './starts/repeating';

const iso = (at: number) => new Date(at).toISOString();
const LONDON = 'Europe/London';

test('a day keeps the time of the clock when summer time begins and ends', () => {
  const spring = Date.parse('2026-03-28T09:00:00Z');
  expect(iso(after(spring, { n: 1, unit: 'days' }, LONDON))).toBe('2026-03-29T08:00:00.000Z');
  expect(iso(after(spring, { n: 24, unit: 'hours' }, LONDON))).toBe('2026-03-29T09:00:00.000Z');
  const autumn = Date.parse('2026-10-24T08:00:00Z');
  expect(iso(after(autumn, { n: 1, unit: 'weeks' }, LONDON))).toBe('2026-10-31T09:00:00.000Z');
});

test('a mail of one day goes in five minutes, or again on the same weekday at the same hour', () => {
  const wall = Date.parse('2026-11-24T09:58:30Z');
  expect(inFiveMinutes(wall)).toBe('2026-11-24T10:04');
  expect(inFiveMinutes(wallOf('2026-11-30T23:57'))).toBe('2026-12-01T00:02');
  expect(weeksLater('2026-11-24T09:00', wall)).toBe('2026-12-01T09:00');
  expect(weeksLater('2026-11-24T09:58', wallOf('2026-11-24T09:58'))).toBe('2026-12-01T09:58');
  // One that is to come goes a week later; one long past the first time that is to come.
  expect(weeksLater('2026-11-25T09:00', wall)).toBe('2026-12-02T09:00');
  expect(weeksLater('2026-10-01T09:00', wall)).toBe('2026-11-26T09:00');
});

test('a time that clocks pass over is the moment after; one that they show twice is the first', () => {
  // In London, 2026-03-29 has no 01:30, and 2026-10-25 has two.
  expect(iso(instantOfWall(Date.parse('2026-03-29T01:30:00Z'), LONDON))).toBe(
    '2026-03-29T01:30:00.000Z',
  );
  expect(iso(instantOfWall(Date.parse('2026-10-25T01:30:00Z'), LONDON))).toBe(
    '2026-10-25T00:30:00.000Z',
  );
});

test('the next time of day is on a day that is named, by the clock of the person', () => {
  const thursday = Date.parse('2026-11-26T12:00:00Z');
  const next = (time: string, days: number[], zone: string) =>
    iso(nextTime(thursday, { time, days }, zone));
  expect(next('13:00', [], LONDON)).toBe('2026-11-26T13:00:00.000Z');
  expect(next('12:00', [], LONDON)).toBe('2026-11-26T12:00:00.000Z');
  expect(next('11:00', [], LONDON)).toBe('2026-11-27T11:00:00.000Z');
  expect(next('09:00', [1, 4], LONDON)).toBe('2026-11-30T09:00:00.000Z');
  expect(next('09:00', [4], 'Pacific/Auckland')).toBe('2026-12-02T20:00:00.000Z');
});

test('any zone: a wall time that is shown is found again, and the next time is never before', () => {
  const zones = fc.constantFrom(
    LONDON,
    'America/New_York',
    'Asia/Kathmandu',
    'Pacific/Auckland',
    'UTC',
  );
  const instants = fc.integer({ min: Date.UTC(2020, 0), max: Date.UTC(2030, 0) });
  fc.assert(
    fc.property(instants, zones, fc.integer({ min: 0, max: 23 }), (given, zone, hour) => {
      const minute = Math.floor(given / 60_000) * 60_000;
      const wall = wallIn(new Date(minute), zone);
      expect(wallIn(new Date(instantOfWall(wall, zone)), zone)).toBe(wall);
      const time = `${String(hour).padStart(2, '0')}:00`;
      const next = nextTime(minute, { time }, zone);
      expect(next).toBeGreaterThanOrEqual(minute);
      expect(next - minute).toBeLessThanOrEqual(49 * 3_600_000);
    }),
  );
});

test('repeating times: weekdays, and the last day of a month that has no 31st', () => {
  const start = { kind: 'repeating', clock: 'shop', time: '09:30' } as const;
  const from = Date.parse('2026-11-26T09:30:00Z');
  const walls = (more: object, n: number) => {
    const found: string[] = [];
    for (let at = from; found.length < n;) {
      at = nextWall({ ...start, ...more } as Parameters<typeof nextWall>[0], at);
      found.push(iso(at).slice(0, 16));
    }
    return found;
  };
  expect(walls({ every: 'day' }, 1)).toEqual(['2026-11-27T09:30']);
  expect(walls({ every: 'week', days: [1, 7] }, 3)).toEqual([
    ...['2026-11-29T09:30', '2026-11-30T09:30', '2026-12-06T09:30'],
  ]);
  expect(walls({ every: 'month', day: 31 }, 4)).toEqual([
    ...['2026-11-30T09:30', '2026-12-31T09:30', '2027-01-31T09:30', '2027-02-28T09:30'],
  ]);
  // A day that most months have is that day in them, not the last one.
  expect(walls({ every: 'month', day: 30 }, 4)).toEqual([
    ...['2026-11-30T09:30', '2026-12-30T09:30', '2027-01-30T09:30', '2027-02-28T09:30'],
  ]);
  expect(walls({ every: 'month', day: 29 }, 16).filter((at) => at.includes('-02-'))).toEqual([
    ...['2027-02-28T09:30', '2028-02-29T09:30'],
  ]);
});

test('a point in time begins with tomorrow, is said with its day, and is a day that there is', () => {
  const made = atTime.make(Date.parse('2027-12-31T22:00:00Z'));
  expect(made.time).toBe('2028-01-01T09:00');
  expect(atTime.say(made, FIRST_RULES)).toBe('Once, on Saturday, 1 January 2028 at 09:00');
  const says = (time: string) => atTime.schema.safeParse({ ...made, time });
  expect(says('2028-02-29T23:59').success).toBe(true);
  for (const none of [
    '2027-02-29T09:00',
    '2026-13-01T09:00',
    '2026-11-24T24:00',
    '2026-11-24T9:61',
  ])
    expect(says(none).success).toBe(false);
});

test('said in words', () => {
  expect(sayDuration({ n: 1, unit: 'hours' })).toBe('1 hour');
  expect(sayDuration(durationOf(90 * 60_000))).toBe('90 minutes');
  expect(sayDuration(durationOf(48 * 3_600_000))).toBe('2 days');
  expect(sayWeekdays([])).toBe('every day');
  expect(sayWeekdays([5, 1, 2, 3, 4])).toBe('weekdays');
  expect(sayWeekdays([7, 6])).toBe('Saturday and Sunday');
});

test('what is kept of a zone is what Intl shows, at any instant', () => {
  const shown = (at: number, timeZone: string) => {
    const parts = Object.fromEntries(
      new Intl.DateTimeFormat('en-US-u-ca-gregory-nu-latn', {
        ...{ timeZone, hourCycle: 'h23', year: 'numeric', month: 'numeric', day: 'numeric' },
        ...{ hour: 'numeric', minute: 'numeric', second: 'numeric' },
      })
        .formatToParts(new Date(at))
        .map(({ type, value }) => [type, Number(value)]),
    ) as Record<string, number>;
    const { year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0 } = parts;
    return Date.UTC(year, month - 1, day, hour, minute, second);
  };
  const zones = fc.constantFrom(
    ...['Europe/London', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'America/St_Johns'],
    ...['Pacific/Apia', 'Africa/Monrovia', 'America/Caracas', 'Asia/Pyongyang'],
  );
  const seconds = fc.integer({ min: Date.UTC(1960, 0) / 1000, max: Date.UTC(2040, 0) / 1000 });
  fc.assert(
    fc.property(seconds, zones, (second, zone) => {
      expect(wallIn(new Date(second * 1000), zone)).toBe(shown(second * 1000, zone));
    }),
    { numRuns: 2_000 },
  );
});
