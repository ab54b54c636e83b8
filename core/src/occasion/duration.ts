import { z } from 'zod';
import { instantOfWall, wallIn } from '../formula';

export const UNITS = ['minutes', 'hours', 'days', 'weeks'] as const;
type Unit = (typeof UNITS)[number];

/** How long something takes, as it was said. */
export const Duration = z.strictObject({
  n: z
    .number()
    .int('A duration must be a whole number.')
    .min(0)
    .max(1000, 'A duration can be at most 1,000.'),
  unit: z.enum(UNITS),
});
export type Duration = z.infer<typeof Duration>;

const MS: Record<Unit, number> = {
  minutes: 60_000,
  hours: 3_600_000,
  days: 86_400_000,
  weeks: 604_800_000,
};

/** In milliseconds, where a day has 24 hours. */
export const durationMs = ({ n, unit }: Duration): number => n * MS[unit];

/**
 * The instant after a time has gone by, in milliseconds. Minutes and hours are counted; days and weeks keep the time
 * that clocks of the zone show, so that a day of 23 or 25 hours is one day.
 */
export function after(at: number, duration: Duration, zone: string): number {
  const ms = durationMs(duration);
  if (duration.unit === 'minutes' || duration.unit === 'hours' || ms === 0) return at + ms;
  return instantOfWall(wallIn(new Date(at), zone) + ms, zone);
}

/** “3 hours”, “1 day”. */
export const sayDuration = ({ n, unit }: Duration): string =>
  `${n} ${n === 1 ? unit.slice(0, -1) : unit}`;

/** A stretch of milliseconds in the largest unit that it is a whole number of. */
export function durationOf(ms: number): Duration {
  const unit = [...UNITS].reverse().find((one) => ms > 0 && ms % MS[one] === 0) ?? 'minutes';
  return { n: Math.round(ms / MS[unit]), unit };
}

/** “every day”, “every 6 hours”. */
export const sayEvery = (every: Duration): string =>
  `every ${every.n === 1 ? every.unit.slice(0, -1) : sayDuration(every)}`;
