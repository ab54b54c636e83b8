import { z } from 'zod';
import { endpoint } from './endpoint';

export const Health = z.object({
  version: z.string(),
  ready: z.boolean(),
  /** Seconds since the clock last ticked; null before its first tick. */
  clock_age_seconds: z.number().nullable(),
  /** Files that are looked at, or kept until somebody decides. */
  waiting_files: z.object({ count: z.number(), bytes: z.number() }),
});
export type Health = z.infer<typeof Health>;

export const systemEndpoints = {
  health: endpoint({
    method: 'GET',
    path: '/health',
    summary: 'Whether the server is ready, and how long ago its clock ticked',
    answer: Health,
  }),
  openApi: endpoint({
    method: 'GET',
    path: '/openapi.json',
    summary: 'This interface as an OpenAPI 3.1 document',
    answer: z.unknown(),
  }),
};
