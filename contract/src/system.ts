import { z } from 'zod';
import { endpoint } from './endpoint';

export const Health = z.object({
  version: z.string(),
  /** Whether all is as it should be: the clock ticks, there is room on the disk, and nothing is stuck. */
  ready: z.boolean(),
  /** What is not as it should be, in sentences. */
  problems: z.array(z.string()),
  /** Seconds since the clock last ticked; null before its first tick. */
  clock_age_seconds: z.number().nullable(),
  /** Files that are looked at, or kept until somebody decides. */
  waiting_files: z.object({ count: z.number(), bytes: z.number() }),
  /** Emails that are due and not sent, and since when the oldest is. */
  emails: z.object({ due: z.number(), oldest_due_at: z.iso.datetime().nullable() }),
  /** Jobs that are due, since when the oldest is, and those that failed and were set aside. */
  jobs: z.object({
    ...{ due: z.number(), oldest_due_at: z.iso.datetime().nullable(), set_aside: z.number() },
  }),
  /** People whom occasions have to look at, and since when the first is due. */
  people: z.object({ first_due_at: z.iso.datetime().nullable() }),
  /** How much work waits for a thread, by kind of work; empty where there are no threads. */
  threads: z.record(z.string(), z.number()),
  /** Free bytes where the data is; null where that is not known. */
  free_bytes: z.number().nullable(),
});
export type Health = z.infer<typeof Health>;

const ClockAnswer = z.object({
  now: z.iso.datetime(),
  /** Minutes ahead of the real time. */
  moved: z.number(),
});
export type ClockAnswer = z.infer<typeof ClockAnswer>;

export const systemEndpoints = {
  health: endpoint({
    method: 'GET',
    path: '/health',
    summary: 'Whether the server is ready, and how long ago its clock ticked',
    answer: Health,
  }),
  clock: endpoint({
    method: 'GET',
    path: '/clock',
    summary: 'What time it is here, and how far the clock was moved',
    answer: ClockAnswer,
  }),
  moveClock: endpoint({
    method: 'POST',
    path: '/clock',
    summary: 'Move the clock on, in test-only mode; all that is due until then happens',
    body: z.strictObject({
      minutes: z
        .number()
        .int('The clock moves by whole minutes.')
        .min(1, 'The clock moves forward only.')
        .max(527_040, 'The clock moves a year at most.'),
    }),
    answer: ClockAnswer,
  }),
  resetClock: endpoint({
    method: 'DELETE',
    path: '/clock',
    summary: 'Put the clock back to the real time',
    answer: ClockAnswer,
  }),
  openApi: endpoint({
    method: 'GET',
    path: '/openapi.json',
    summary: 'This interface as an OpenAPI 3.1 document',
    answer: z.unknown(),
  }),
};
