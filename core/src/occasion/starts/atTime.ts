import { z } from 'zod';
import { instantOfWall, wallIn } from '../../formula';
import { defineStart } from '../define';

const schema = z.strictObject({
  kind: z.literal('at_time'),
  /** Date and time as clocks show it: 2026-12-01T09:00. */
  time: z.string().regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, 'A moment is a date and a time.'),
  /** By whose clock. */
  clock: z.enum(['shop', 'person']),
});

/** What clocks show, in milliseconds as if they showed UTC. */
export const wallOf = (time: string): number => Date.parse(`${time}:00Z`);

export const atTime = defineStart({
  kind: 'at_time',
  name: 'Once, at a time',
  description: 'A mail to many, on one day.',
  schema,
  make: () => ({ kind: 'at_time' as const, time: '2027-01-01T09:00', clock: 'shop' as const }),
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
    `Once, on ${time.slice(0, 10)} at ${time.slice(11)}${clock === 'person' ? ' by each person’s clock' : ''}`,
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
