import { Day, instantOfWall, readDate, toDate, type Value } from '../formula';

/**
 * When something was, in milliseconds, of a date as it was written; long ago where it is none. Dates of files and feeds keep
 * the offset that they were written with, so their texts tell no order.
 */
export const instantOf = (text: string | undefined): number => readDate(text ?? '')?.getTime() ?? 0;

const DAY_MS = 86_400_000;

/** Whether a date is over: an instant when it has come, a bare day when it has ended by the clocks of a time zone. */
export function isOver(date: Value, now: Date, zone = 'UTC'): boolean {
  const end = toDate(date);
  if (!end) return false;
  const at = end instanceof Day ? instantOfWall(end.getTime() + DAY_MS, zone) : end.getTime();
  return at <= now.getTime();
}
