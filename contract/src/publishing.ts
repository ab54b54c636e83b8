import { z } from 'zod';
import { endpoint } from './endpoint';

const Published = z.object({
  /** Counts up from 1. */
  number: z.number(),
  at: z.iso.datetime(),
  note: z.string(),
});
export type Published = z.infer<typeof Published>;

const PublishedVersion = Published.extend({ template: z.unknown() });
export type PublishedVersion = z.infer<typeof PublishedVersion>;

export const publishingEndpoints = {
  listPublished: endpoint({
    method: 'GET',
    path: '/templates/:id/published',
    summary: 'What was published of a template, the latest first',
    answer: z.object({ versions: z.array(Published) }),
  }),
  getPublished: endpoint({
    method: 'GET',
    path: '/templates/:id/published/:number',
    summary: 'A template as it was published',
    answer: PublishedVersion,
  }),
  publishTemplate: endpoint({
    method: 'POST',
    path: '/templates/:id/publish',
    summary:
      'Publish the draft at a version; 409 where it was changed meanwhile, 428 where an expectation does not hold and no reason is given',
    body: z.strictObject({
      version: z.number().int(),
      note: z.string().trim().max(500, 'A note has at most 500 letters.').default(''),
      /** Why it is published though an expectation does not hold for everybody. */
      despite: z.string().trim().max(500, 'A reason has at most 500 letters.').optional(),
    }),
    answer: Published,
    status: 201,
  }),
};
