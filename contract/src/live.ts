import { z } from 'zod';
import { ImportState } from './imports';

/** What changed on the server, as it happens. */
export const LiveUpdate = z.discriminatedUnion('type', [
  /** The first that a page hears: from here on it is told. */
  z.object({ type: z.literal('here') }),
  /** What the page heard last is too long ago, or of a server that was started anew: all may have changed. */
  z.object({ type: z.literal('stale') }),
  z.object({ type: z.literal('people'), shop: z.string(), ids: z.array(z.number()) }),
  z.object({ type: z.literal('shared'), shop: z.string().nullable() }),
  /** The shape of what a shop’s recipients read is another than the one that was told. */
  z.object({ type: z.literal('shape'), shop: z.string() }),
  z.object({ type: z.literal('source'), id: z.string() }),
  /** A rule is tried on the past: how many people are done. */
  z.object({ type: z.literal('trial'), rule: z.string(), done: z.number() }),
  z.object({ type: z.literal('template'), id: z.string() }),
  /** Which variants of a template were looked at. */
  z.object({ type: z.literal('looked'), template: z.string() }),
  z.object({ type: z.literal('outbox') }),
  z.object({ type: z.literal('occasions'), shop: z.string() }),
  z.object({ type: z.literal('clock') }),
  z.object({
    type: z.literal('import'),
    id: z.string(),
    source: z.string(),
    state: ImportState,
    progress: z.number().nullable(),
  }),
]);
export type LiveUpdate = z.infer<typeof LiveUpdate>;
