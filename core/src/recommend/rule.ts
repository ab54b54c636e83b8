import { z } from 'zod';
import { STEPS } from './steps';

const schemas = Object.values(STEPS).map(({ schema }) => schema);
type Schemas = [z.ZodObject<{ kind: z.ZodLiteral }>, ...z.ZodObject<{ kind: z.ZodLiteral }>[]];
const Step = z.discriminatedUnion('kind', schemas as unknown as Schemas) as unknown as z.ZodType<
  z.infer<(typeof schemas)[number]>
>;

/** A recommendation rule, as it is stored. */
export const Rule = z.strictObject({
  /** In formulas after `picks.`. */
  name: z.string().regex(/^[\p{L}_][\p{L}\p{Nd}_]{0,39}$/u),
  label: z.string().trim().min(1).max(100),
  /** How many picks it gives. */
  number: z.number().int().min(1).max(50),
  /** Asked in turn, each for so many at most; the last for whatever is missing. */
  steps: z
    .array(z.strictObject({ take: z.number().int().min(1).max(50), step: Step }))
    .min(1)
    .max(12),
  exclude: z.strictObject({
    out_of_stock: z.boolean(),
    in_cart: z.boolean(),
    /** What was bought in the last so many days; all that ever was for `ever`. */
    bought_days: z.union([z.literal('ever'), z.number().int().min(1).max(3650)]).optional(),
  }),
  /** At most so many of one category, or of one brand. */
  spread: z
    .strictObject({ by: z.enum(['category', 'brand']), most: z.number().int().min(1).max(50) })
    .optional(),
});
export type Rule = z.infer<typeof Rule>;
