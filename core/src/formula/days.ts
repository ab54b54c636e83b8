import { remember } from './remember';

/**
 * A calendar day, as a bare date means one: the same day in every time zone. As a Date it is the UTC
 * midnight of that day. Sent to a thread as it is it would become an instant: see `packDays`.
 */
export class Day extends Date {
  /** As a bare date, so that it is a day again when it is read. */
  override toJSON(): string {
    return dayText(this);
  }
}

/** Milliseconds in a day of 24 hours. */
export const DAY_MS = 86_400_000;

/** The day that begins at a UTC midnight. */
export function dayAt(milliseconds: number): Day {
  return new Day(milliseconds);
}

/** A day as it is written by ISO 8601: 2026-11-30. */
function dayText(day: Date): string {
  return day.toISOString().replace(/T.*/, '');
}

const clocks = remember(
  100,
  (timeZone: string) =>
    new Intl.DateTimeFormat('en-US-u-ca-gregory-nu-latn', {
      ...{ timeZone, hourCycle: 'h23', era: 'short' },
      ...{ year: 'numeric', month: 'numeric', day: 'numeric' },
      ...{ hour: 'numeric', minute: 'numeric', second: 'numeric' },
    }),
);

interface WallTime {
  year: number;
  month: number;
  day: number;
  /** Milliseconds since midnight, to the second. */
  time: number;
}

/** What clocks on the wall show in a zone. */
function wallTime(at: Date, timezone: string): WallTime {
  const parts: Record<string, string> = {};
  for (const { type, value } of clocks(timezone).formatToParts(at)) parts[type] = value;
  const number = (name: string) => Number(parts[name] ?? 0);
  const year = number('year');
  return {
    // Years before the first are counted backwards: the year before it is 0 by ISO 8601.
    year: parts['era']?.startsWith('B') ? 1 - year : year,
    month: number('month'),
    day: number('day'),
    time: ((number('hour') * 60 + number('minute')) * 60 + number('second')) * 1000,
  };
}

function utcMidnight({ year, month, day }: WallTime): number {
  const date = new Date(0);
  date.setUTCFullYear(year, month - 1, day);
  return date.getTime();
}

/** The calendar day of an instant in a zone; a day is that day in every zone. */
export function dayIn(date: Date, timezone: string): Day {
  return date instanceof Day ? date : dayAt(Math.floor(wallIn(date, timezone) / DAY_MS) * DAY_MS);
}

/** What the clocks of a zone show, as the milliseconds at which clocks of UTC show the same. */
export function wallIn(date: Date, timezone: string): number {
  const at = date.getTime();
  return date instanceof Day ? at : at + offset(at, timezone);
}

/** How far the clocks of a zone are ahead of UTC, in milliseconds, as reckoned from what they show. */
function offsetShown(at: number, timezone: string): number {
  const wall = wallTime(new Date(at), timezone);
  return utcMidnight(wall) + wall.time - Math.floor(at / 1000) * 1000;
}

/** The offsets of a zone by stretches of so many milliseconds; null where clocks are changed within one. */
const offsetsBy = (length: number) =>
  remember(100, (timezone: string) =>
    remember(10_000, (stretch: number): number | null => {
      const [first, last] = [stretch * length, (stretch + 1) * length - 1];
      const at = offsetShown(first, timezone);
      return offsetShown(last, timezone) === at ? at : null;
    }),
  );
const QUARTER = 900_000;
const byDay = offsetsBy(DAY_MS);
const byQuarter = offsetsBy(QUARTER);

/** The same; kept for each day, and for each quarter of an hour of days on which clocks are changed: Intl is slow. */
function offset(at: number, timezone: string): number {
  return (
    byDay(timezone)(Math.floor(at / DAY_MS)) ??
    byQuarter(timezone)(Math.floor(at / QUARTER)) ??
    offsetShown(at, timezone)
  );
}

const midnights = remember(100, (timezone: string) =>
  remember(1_000, (day: number) => {
    const guess = day - offset(day, timezone);
    const second = day - offset(guess, timezone);
    // Where clocks are put on at midnight, the day begins an hour later than midnight would.
    const candidates = [guess, second].sort((a, b) => a - b);
    const begins = candidates.find((at) => utcMidnight(wallTime(new Date(at), timezone)) === day);
    return begins ?? second;
  }),
);

/** The instant that a date stands for beside instants, in milliseconds: a day is the midnight that begins it. */
export function instantIn(date: Date, timezone: string): number {
  return date instanceof Day ? midnights(timezone)(date.getTime()) : date.getTime();
}

/**
 * The instant at which clocks of a zone show a time, both in milliseconds: the first where they show it twice, and the
 * moment after where they pass over it.
 */
export function instantOfWall(wall: number, timezone: string): number {
  const candidates = [wall - offset(wall, timezone)];
  for (const near of [-DAY_MS / 8, DAY_MS / 8])
    candidates.push(wall - offset((candidates[0] ?? wall) + near, timezone));
  const shown = candidates.filter((at) => at + offset(at, timezone) === wall);
  return shown.length > 0 ? Math.min(...shown) : Math.max(...candidates);
}
