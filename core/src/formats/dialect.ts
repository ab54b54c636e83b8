import { z } from 'zod';

export const DELIMITERS = [',', ';', '\t', '|'] as const;
export const DELIMITER_NAMES: Record<Delimiter, string> = {
  ',': 'comma',
  ';': 'semicolon',
  '\t': 'tab',
  '|': 'pipe',
};
export type Delimiter = (typeof DELIMITERS)[number];

/** How a table of text is written. */
export const Dialect = z.object({
  delimiter: z.enum(DELIMITERS),
  /** What stands round cells; empty where nothing does. */
  quote: z.enum(['"', "'", '']),
  header: z.boolean(),
});
export type Dialect = z.infer<typeof Dialect>;
