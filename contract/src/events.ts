import { z } from 'zod';
import { endpoint } from './endpoint';

export const EventsTaken = z.object({
  taken: z.number(),
  known: z.number(),
  refused: z.array(z.object({ place: z.number(), message: z.string() })),
  /** What was not kept of some that were taken: names that no event of its kind has. */
  dropped: z.array(z.object({ place: z.number(), names: z.array(z.string()) })),
});
export type EventsTaken = z.infer<typeof EventsTaken>;

export const eventEndpoints = {
  postEvents: endpoint({
    method: 'POST',
    path: '/events',
    summary: 'What happened in a shop: one event, a list of up to 10,000, or NDJSON',
    body: z.unknown(),
    answer: EventsTaken,
  }),
  eventSchema: endpoint({
    method: 'GET',
    path: '/schema/events/:kind',
    summary: 'The JSON Schema of a kind of event, `viewed.json` and so on',
    answer: z.unknown(),
  }),
};
