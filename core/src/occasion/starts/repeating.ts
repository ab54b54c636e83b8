import { Cron } from 'croner';
import { z } from 'zod';
import { remember } from '../../formula';
import { ClockTime, sayWeekdays, Weekdays } from '../clockTime';
import { defineStart } from '../define';
import { atTime } from './atTime';

const schema = z.strictObject({
  kind: z.literal('repeating'),
  every: z.enum(['day', 'week', 'month']),
  /** Of `week`. */
  days: Weekdays.optional(),
  /** Of `month`; the last day where there is none of that number. */
  day: z.number().int().min(1).max(31).optional(),
  time: ClockTime,
  clock: z.enum(['shop', 'person']),
});
type Start = z.infer<typeof schema>;

/** As croner reads it: every month for days that each month has. */
function patternOf({ every, days = [], day = 1, time }: Start): string {
  const [hour = '0', minute = '0'] = time.split(':');
  const at = `${Number(minute)} ${Number(hour)}`;
  if (every === 'day') return `${at} * * *`;
  if (every === 'week')
    return `${at} * * ${days.length > 0 ? days.map((d) => d % 7).join(',') : '1'}`;
  return `${at} ${day} * *`;
}

/** Days past the 28th are the last of a shorter month. */
function nextInMonth({ day = 1, time }: Start, wall: number): number {
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  const from = new Date(wall);
  for (let month = from.getUTCMonth(); ; month++) {
    const last = new Date(Date.UTC(from.getUTCFullYear(), month + 1, 0)).getUTCDate();
    const at = Date.UTC(from.getUTCFullYear(), month, Math.min(day, last), hour, minute);
    if (at > wall) return at;
  }
}

const crons = remember(
  200,
  (pattern: string) => new Cron(pattern, { timezone: 'UTC', paused: true }),
);

/** The next time after `wall`, as clocks show it, in milliseconds. */
export function nextWall(start: Start, wall: number): number {
  if (start.every === 'month' && (start.day ?? 1) > 28) return nextInMonth(start, wall);
  const next = crons(patternOf(start)).nextRun(new Date(wall));
  return next ? next.getTime() : Number.POSITIVE_INFINITY;
}

function sayDay(day: number): string {
  if (day === 31) return 'the last day';
  return day > 28 ? `day ${day} (or the last, if there is none)` : `day ${day}`;
}

export const repeating = defineStart({
  kind: 'repeating',
  name: 'Again and again',
  description: 'Every day, on days of the week, or once a month: digests, and what is new.',
  schema,
  make: () => ({
    ...{ kind: 'repeating' as const, every: 'week' as const, days: [4], time: '09:00' },
    clock: 'shop' as const,
  }),
  fields: [
    {
      ...{ control: 'choice', path: 'every', before: 'Every' },
      options: [
        { value: 'day', label: 'day' },
        { value: 'week', label: 'week' },
        { value: 'month', label: 'month' },
      ],
    },
    { control: 'weekdays', path: 'days', before: 'on', when: { path: 'every', is: ['week'] } },
    {
      ...{ control: 'number', path: 'day', before: 'on day', after: '', most: 31 },
      when: { path: 'every', is: ['month'] },
    },
    { control: 'time', path: 'time', before: 'at' },
    {
      ...{ control: 'choice', path: 'clock', before: 'by' },
      options: [
        { value: 'shop', label: 'the shop’s clock' },
        { value: 'person', label: 'each person’s own clock' },
      ],
    },
  ],
  say: ({ every, days = [], day = 1, time, clock }) => {
    const when =
      every === 'day'
        ? 'Every day'
        : every === 'week'
          ? `Every week on ${sayWeekdays(days.length > 0 ? days : [1])}`
          : `Every month on ${sayDay(day)}`;
    return `${when} at ${time}${clock === 'person' ? ' by each person’s clock' : ''}`;
  },
  causes: (start, moment) =>
    atTime.causes({ kind: 'at_time', time: '2000-01-01T00:00', clock: start.clock }, moment),
});
