import { z } from 'zod';
import { BLOCKS, type BlockKind } from '../blocks';
import type { NodeKind } from '../blocks/define';
import {
  Colour,
  common,
  Formula,
  HouseStyle,
  looks,
  Running,
  type Loop,
  type Padding,
} from './parts';

/** The version that this code writes; a later one is refused, an earlier one is brought forward. */
export const TEMPLATE_VERSION = 1;

type OwnFields = { [K in BlockKind]: z.infer<(typeof BLOCKS)[K]['schema']> };
/** A block may carry an else: what shows in its place when its condition does not hold. */
interface WithElse {
  else?: Block;
}
export type BlockOf<K extends BlockKind> = OwnFields[K] & WithElse;
export type Block = { [K in BlockKind]: BlockOf<K> }[BlockKind];

type Kinds = [z.ZodObject<{ kind: z.ZodLiteral }>, ...z.ZodObject<{ kind: z.ZodLiteral }>[]];
export const Block: z.ZodType<Block> = z.lazy(
  () =>
    z.discriminatedUnion(
      'kind',
      Object.values(BLOCKS).map((definition) =>
        definition.schema.extend({ ...childFields(definition), else: Block.optional() }),
      ) as unknown as Kinds,
    ) as unknown as z.ZodType<Block>,
);

/** The lists of blocks that a kind of block holds. */
function childFields({ children = [] }: Pick<NodeKind, 'children'>): Record<string, z.ZodType> {
  return Object.fromEntries(
    children.map(({ at, least = 0, most }) => [at, z.array(Block).min(least).max(most)]),
  );
}

export interface Column {
  kind: 'column';
  id: string;
  loop?: Loop;
  when?: string;
  /** Percent of the section's width. */
  width?: number;
  background?: string;
  blocks: Block[];
  else?: Column;
}
const Column: z.ZodType<Column> = z.lazy(() =>
  z.strictObject({
    kind: z.literal('column'),
    ...common,
    width: z.number().min(5).max(100).optional(),
    background: Colour.optional(),
    blocks: z.array(Block).max(100),
    else: Column.optional(),
  }),
);

export interface Section {
  kind: 'section';
  id: string;
  loop?: Loop;
  when?: string;
  name?: string;
  background?: string;
  padding?: Padding;
  /** How columns stand on a phone; below each other where it is left out. */
  stacking?: 'stack' | 'last_first' | 'beside';
  columns: Column[];
  else?: Section;
}
/** A section, as it is read from outside. */
export const SectionSchema: z.ZodType<Section> = z.lazy(() =>
  z.strictObject({
    kind: z.literal('section'),
    ...common,
    ...looks,
    name: z.string().max(100).optional(),
    background: Colour.optional(),
    stacking: z.enum(['stack', 'last_first', 'beside']).optional(),
    columns: z.array(Column).min(1).max(4),
    else: SectionSchema.optional(),
  }),
);

export type TemplateNode = Section | Column | Block;

const Envelope = z.strictObject({
  from_name: Running,
  from_email: z.string().max(320),
  /** The recipient’s name, before the address; nothing where it is blank. */
  to_name: Running.optional(),
  subject: Running,
  preview_text: Running,
  /** Who it does not hold for gets no mail. */
  only_if: Formula.optional(),
});

/** What links into the web carry, so that the shop knows where a visit came from. */
const LinkTag = z.strictObject({
  /** The parameter of the address. */
  parameter: z
    .string()
    .regex(/^[A-Za-z0-9_.-]{1,40}$/, 'a parameter is 1 to 40 letters, digits, . _ or -'),
  value: Running,
});
export type LinkTag = z.infer<typeof LinkTag>;

/** A formula over the record and the mail that must hold for everybody. */
const Expectation = z.strictObject({ formula: Formula, name: z.string().max(200).optional() });
export type Expectation = z.infer<typeof Expectation>;

/** A check that is off for this template, and why. */
const CheckOff = z.strictObject({ check: z.string().max(60), reason: z.string().min(1).max(500) });

/** A mail that fills itself, as it is stored and exchanged. */
export const Template = z.strictObject({
  format: z.literal('carafe-template'),
  version: z.literal(TEMPLATE_VERSION),
  name: z.string().min(1).max(200),
  /** The shop it speaks for. */
  shop: z.string().max(100),
  /** The BCP 47 language of its words. */
  language: z.string().max(35),
  envelope: Envelope,
  link_tags: z.array(LinkTag).max(8).optional(),
  expectations: z.array(Expectation).max(50).optional(),
  checks_off: z.array(CheckOff).max(60).optional(),
  style: HouseStyle,
  sections: z.array(SectionSchema).max(200),
});
export type Template = z.infer<typeof Template>;
