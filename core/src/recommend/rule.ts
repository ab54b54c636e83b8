import { z } from 'zod';
import { STEPS } from './steps';

const schemas = Object.values(STEPS).map(({ schema }) => schema);
type Schemas = [z.ZodObject<{ kind: z.ZodLiteral }>, ...z.ZodObject<{ kind: z.ZodLiteral }>[]];
const Step = z.discriminatedUnion('kind', schemas as unknown as Schemas) as unknown as z.ZodType<
  z.infer<(typeof schemas)[number]>
>;
const Formula = z.string().max(4000);

const most = (n: number, what: string) =>
  z
    .number()
    .int(`${what} is a whole number.`)
    .min(1, `${what} is at least 1.`)
    .max(n, `${what} is at most ${n}.`);

/** A recommendation rule, as it is stored. */
export const Rule = z.strictObject({
  /** In formulas after `picks.`. */
  name: z
    .string()
    .regex(
      /^[\p{L}_][\p{L}\p{Nd}_]{0,39}$/u,
      'The name in formulas is letters, digits and underscores, and begins with a letter.',
    ),
  label: z.string().trim().min(1, 'A rule needs a name.').max(100),
  /** How many picks it gives. */
  number: most(50, 'How many products'),
  /** Over products: what may be picked at all; everything where it is left out. */
  pool: Formula.optional(),
  /** Asked in turn, each for so many at most; the last for whatever is missing. */
  steps: z
    .array(
      z.strictObject({
        take: most(50, 'How many a step takes'),
        /** Of a mix: how much it counts. */
        weight: z.number().min(0).max(10).optional(),
        step: Step,
      }),
    )
    .min(1, 'A rule needs at least one step.')
    .max(12, 'A rule has at most 12 steps.'),
  /** All steps but the last are asked together, and count by their weights. */
  mixed: z.boolean().optional(),
  exclude: z.strictObject({
    out_of_stock: z.boolean(),
    in_cart: z.boolean(),
    /** What was bought in the last so many days; all that ever was for `ever`. */
    bought_days: z.union([z.literal('ever'), most(3650, 'How many days')]).optional(),
    /** What was in the latest order, however long ago; left out as the days are: a rule that asks for days leaves it out. */
    latest_order: z.boolean().optional(),
    /** What stood in somebody's last so many mails. */
    shown_mails: most(20, 'How many emails').optional(),
    /** Products for which it holds; reads the product and, beside it, person, cart and order. */
    where: Formula.optional(),
  }),
  /** At most so many of one category, of one brand, or of about one price. */
  spread: z
    .strictObject({
      by: z.enum(['category', 'brand', 'price']),
      most: most(50, 'How many of a kind'),
    })
    .optional(),
  /** How the picks stand in the end; as they were chosen where it is left out. */
  order: z.enum(['price_up', 'price_down', 'newest', 'name']).optional(),
});
export type Rule = z.infer<typeof Rule>;
export type RuleStep = Rule['steps'][number];
