import { z } from 'zod';

/** The pieces that the schemas of nodes are made of. */
export const Id = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,40}$/, 'an id is 1 to 40 letters, digits, _ or -');
/**
 * A formula as it stands in a template. It may be longer than one that can be read: what is being written is kept, told of,
 * and not published.
 */
export const Formula = z.string().max(20_000);
/** Words with merge tags between double braces. */
export const Running = z.string().max(20_000);
export const Colour = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'write a colour as #rrggbb');
export const Align = z.enum(['left', 'center', 'right']);
export type Align = z.infer<typeof Align>;
const Pixels = z.number().int().min(0).max(200);

/** What a node is repeated over: the members of a list, filtered, put in order, and cut short. */
export const Loop = z.strictObject({
  list: Formula,
  /** The name of the member inside: `line.name`. Its fields are also seen bare. */
  as: z.string().regex(/^[\p{L}_][\p{L}\p{Nd}_]{0,39}$/u),
  where: Formula.optional(),
  sort: z.strictObject({ by: Formula, direction: z.enum(['ascending', 'descending']) }).optional(),
  at_most: z.number().int().min(1).max(1000).optional(),
  /** Where there are fewer than `at_most`: the list that the others are taken from, none twice. */
  fill: Formula.optional(),
  /** Products that the mail shows above are left out; others of the list come in their place. */
  once: z.boolean().optional(),
});
export type Loop = z.infer<typeof Loop>;

const Padding = z.strictObject({ top: Pixels.optional(), bottom: Pixels.optional() });
export type Padding = z.infer<typeof Padding>;

/** What every node has: a stable id, and perhaps a loop and a display condition. */
export const common = { id: Id, loop: Loop.optional(), when: Formula.optional() };
export const looks = { padding: Padding.optional() };

export const HouseStyle = z.strictObject({
  width: z.number().int().min(320).max(900),
  background: Colour,
  surface: Colour,
  ink: Colour,
  quiet: Colour,
  primary: Colour,
  on_primary: Colour,
  rule: Colour,
  heading_font: z
    .string()
    .max(200)
    .regex(/^[\w\s,'-]+$/),
  body_font: z
    .string()
    .max(200)
    .regex(/^[\w\s,'-]+$/),
  text_size: z.number().int().min(10).max(24),
  radius: z.number().int().min(0).max(40),
});
export type HouseStyle = z.infer<typeof HouseStyle>;
