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
  /** Work that failed: it alone was set aside, and is tried again. */
  z.object({
    ...{ kind: z.literal('set_aside'), id: z.number(), shop: z.string().nullable() },
    ...{ name: z.string(), about: z.string(), reason: z.string(), attempts: z.number() },
    /** When it is tried again by itself; null where it waits for somebody. */
    again_at: z.iso.datetime().nullable(),
  }),
  /** The server is not as it should be. */
  z.object({ kind: z.literal('problem'), message: z.string() }),
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
  retryJob: endpoint({
    method: 'POST',
    path: '/jobs/:id/retry',
    summary: 'Try again what failed and was set aside',
    answer: null,
  }),
  dropJob: endpoint({
    method: 'DELETE',
    path: '/jobs/:id',
    summary: 'Drop what failed and was set aside',
    answer: null,
  }),
};
