import { z } from 'zod';
import { instantOfWall, wallIn } from '../../formula';
import { defineStart } from '../define';

/** What clocks show, in milliseconds as if they showed UTC. */
export const wallOf = (time: string): number => Date.parse(`${time}:00Z`);

const isoOf = (wall: number): string =>
  Number.isNaN(wall) ? '' : new Date(wall).toISOString().slice(0, 16);

const WEEK = 7 * 86_400_000;
const MINUTE = 60_000;

/** A time as an occasion has it, five minutes from what clocks show or a little more. */
export const inFiveMinutes = (wall: number): string =>
  isoOf(Math.ceil(wall / MINUTE) * MINUTE + 5 * MINUTE);

/** The same weekday and hour as those of a time, the first time that clocks will show them. */
export function weeksLater(time: string, wall: number): string {
  const was = wallOf(time);
  return isoOf(was + Math.max(1, Math.floor((wall - was) / WEEK) + 1) * WEEK);
}

const dayInWords = new Intl.DateTimeFormat('en-GB', { dateStyle: 'full', timeZone: 'UTC' });
const DAY = 86_400_000;

const schema = z.strictObject({
  kind: z.literal('at_time'),
  /** Date and time as clocks show it: 2026-12-01T09:00. */
  time: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, 'A moment is a date and a time.')
    .refine((time) => isoOf(wallOf(time)) === time, 'There is no such day, or no such time.'),
  /** By whose clock. */
  clock: z.enum(['shop', 'person']),
});

export const atTime = defineStart({
  kind: 'at_time',
  name: 'Once, at a time',
  description: 'An email to many, on one day.',
  schema,
  make: (now) => ({
    ...{ kind: 'at_time' as const, clock: 'shop' as const },
    time: `${isoOf(now + DAY).slice(0, 10)}T09:00`,
  }),
  fields: [
    { control: 'moment', path: 'time', before: 'On' },
    {
      ...{ control: 'choice', path: 'clock', before: 'by' },
      options: [
        { value: 'shop', label: 'the shop’s clock' },
        { value: 'person', label: 'each person’s own clock' },
      ],
    },
  ],
  say: ({ time, clock }) =>
    `Once, on ${dayInWords.format(wallOf(time))} at ${time.slice(11)}${clock === 'person' ? ' by each person’s clock' : ''}`,
  causes: ({ clock }, { happening, zone, at }) => {
    if (happening?.kind !== 'time') return [];
    const own = clock === 'person' ? instantOfWall(happening.wall, zone) : at;
    return [{ cause: `time ${happening.name}`, due: Math.max(own, at), about: {} }];
  },
});

/** The instant that a wall time of the shop stands for, and the earliest anywhere (UTC+14). */
export function earliest(wall: number, clock: 'shop' | 'person', zone: string): number {
  return clock === 'shop' ? instantOfWall(wall, zone) : wall - 14 * 3_600_000;
}
/** What clocks of a zone show at an instant. */
export const wallAt = (at: number, zone: string): number => wallIn(new Date(at), zone);
