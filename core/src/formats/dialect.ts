import { z } from 'zod';

export const DELIMITERS = [',', ';', '\t', '|'] as const;
export const DELIMITER_NAMES: Record<Delimiter, string> = {
  ',': 'comma',
  ';': 'semicolon',
  '\t': 'tab',
  '|': 'pipe',
};
export type Delimiter = (typeof DELIMITERS)[number];

/** More lines than that above a table are a text of their own. */
export const MAX_LINES_ABOVE = 20;

/** How a table of text is written. */
export const Dialect = z.object({
  delimiter: z.enum(DELIMITERS),
  /** What stands round cells; empty where nothing does. */
  quote: z.enum(['"', "'", '']),
  header: z.boolean(),
  /** Lines that stand above the table: a title, a day, `sep=;`. */
  skip: z.number().int().min(0).max(MAX_LINES_ABOVE).optional(),
});
export type Dialect = z.infer<typeof Dialect>;
