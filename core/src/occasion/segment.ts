import { z } from 'zod';

/** A named condition over people. Occasions and rules ask for it by its name. */
export const Segment = z.strictObject({
  name: z.string().trim().min(1, 'A segment needs a name.').max(100),
  formula: z.string().trim().min(1, 'Say who is in the segment.').max(4000),
});
export type Segment = z.infer<typeof Segment>;
