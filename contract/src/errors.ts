import { z } from 'zod';

/** What went wrong, in a sentence for a person, with the places where there are some. */
export const ApiError = z.object({
  error: z.object({
    message: z.string(),
    problems: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  }),
});
export type ApiError = z.infer<typeof ApiError>;
