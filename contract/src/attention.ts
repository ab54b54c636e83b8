import { z } from 'zod';
import { endpoint } from './endpoint';

/** Something that waits for an answer, or does not go on by itself. */
export const AttentionItem = z.discriminatedUnion('kind', [
  /** More people entered an occasion within an hour than the shop allows: nothing of it leaves. */
  z.object({
    ...{ kind: z.literal('crowd'), shop: z.string(), occasion: z.string(), name: z.string() },
    ...{ people: z.number(), most: z.number() },
    /** How many of its emails wait for the answer. */
    held: z.number(),
  }),
  /** No email leaves now. */
  z.object({
    ...{ kind: z.literal('paused'), why: z.string() },
    until: z.iso.datetime().nullable(),
  }),
  /** Emails of which nobody knows whether they were sent. */
  z.object({ kind: z.literal('in_doubt'), shop: z.string(), emails: z.number() }),
]);
export type AttentionItem = z.infer<typeof AttentionItem>;

export const attentionEndpoints = {
  attention: endpoint({
    method: 'GET',
    path: '/attention',
    summary: 'What waits for an answer, or does not go on by itself, of all shops',
    answer: z.object({ items: z.array(AttentionItem) }),
  }),
};
