import { z } from 'zod';
import { instantOfWall, wallIn } from '../formula';

const DAY = 86_400_000;

/** A time of day on a clock of 24 hours. */
export const ClockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written 09:30.');

/** Monday is 1. */
export const Weekdays = z.array(z.number().int().min(1).max(7)).max(7);

export const WEEKDAY_NAMES = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday',
] as const;

/** “Monday, Tuesday and Friday”; “every day” for none or all. */
export function sayWeekdays(days: readonly number[]): string {
  const names = [...new Set(days)].sort((a, b) => a - b).map((day) => WEEKDAY_NAMES[day - 1] ?? '');
  if (names.length === 0 || names.length === 7) return 'every day';
  if (names.join() === WEEKDAY_NAMES.slice(0, 5).join()) return 'weekdays';
  const last = names.pop() ?? '';
  return names.length === 0 ? last : `${names.join(', ')} and ${last}`;
}

const minutesOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

/** Monday is 1; of what clocks on the wall show, in milliseconds. */
const weekdayOf = (wall: number): number => ((Math.floor(wall / DAY) + 3) % 7) + 1;

/**
 * The first instant from `at` on, in milliseconds, at which clocks of a zone show a time on one of some days of the
 * week; any day where none is named. A time that clocks pass over in spring is the moment after.
 */
export function nextTime(
  at: number,
  { time, days = [] }: { time: string; days?: readonly number[] | undefined },
  zone: string,
): number {
  const wall = wallIn(new Date(at), zone);
  const midnight = Math.floor(wall / DAY) * DAY;
  for (let day = 0; day <= 8; day++) {
    const wanted = midnight + day * DAY + minutesOf(time) * 60_000;
    if (days.length > 0 && !days.includes(weekdayOf(wanted))) continue;
    const instant = instantOfWall(wanted, zone);
    if (instant >= at) return instant;
  }
  return at;
}
