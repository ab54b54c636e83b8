import { Day, instantOfWall, readDate, toDate, type Value } from '../formula';

/**
 * When something was, in milliseconds, of a date as it was written; long ago where it is none. Dates of files and feeds keep
 * the offset that they were written with, so their texts tell no order.
 */
export const instantOf = (text: string | undefined): number => readDate(text ?? '')?.getTime() ?? 0;

const NAMES = [
  'started_at',
  'updated_at',
  'checkout_started_at',
  'placed_at',
  'status_at',
] as const;

/** A cart or order of a file with its instants as events have them, in UTC; without an offset they are UTC. A bare day stays one. */
export function withInstants<T extends object>(one: T): T {
  const read = { ...one } as Record<string, unknown>;
  for (const name of NAMES) {
    const text = read[name];
    const date = typeof text === 'string' ? readDate(text) : undefined;
    if (date && !(date instanceof Day)) read[name] = date.toISOString();
  }
  return read as T;
}

const DAY_MS = 86_400_000;

/** Whether a date is over: an instant when it has come, a bare day when it has ended by the clocks of a time zone. */
export function isOver(date: Value, now: Date, zone = 'UTC'): boolean {
  const end = toDate(date);
  if (!end) return false;
  const at = end instanceof Day ? instantOfWall(end.getTime() + DAY_MS, zone) : end.getTime();
  return at <= now.getTime();
}
