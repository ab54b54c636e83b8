import type { z } from 'zod';
import { parsedFormula, wordsOf } from '../formula';
import type { Writer } from '../build/writer';
import type { HouseStyle, Loop } from '../template/parts';
import type { NodeField } from './fields';

/** What the shop has that a new block can be tied to. */
export interface ShopSources {
  /** Names of catalogs in formulas, the first first. */
  catalogs: readonly string[];
  /** Names of feeds in formulas. */
  feeds: readonly string[];
  /** Names of coupon policies in formulas. */
  coupons: readonly string[];
  /** What the lines and sums around it are about; a cart where it is left out. */
  record?: 'cart' | 'order';
}
export const NO_SOURCES: ShopSources = { catalogs: [], feeds: [], coupons: [] };

/** A place of a node where other nodes stand. */
export interface ChildSlot {
  /** The node's field that holds them. */
  at: string;
  accepts: 'column' | 'block';
  /** At least and at most so many. */
  least?: number;
  most: number;
}

/** A formula that a block makes of others: it is checked, and is not edited by itself. */
export interface DerivedFormula {
  path: string;
  source: string;
  use: 'value' | 'list';
  inList: boolean;
}

/** Type and alignment of words that are edited in place, so that they look as in the mail. */
export interface TextLooks {
  font: string;
  size: number;
  lineHeight: number;
  colour: string;
  align: 'left' | 'center' | 'right';
  padding: { top: number; bottom: number };
}

/** What is said of any kind of node: of blocks, and of the columns and sections that they stand in. */
export interface NodeKind<N = never> {
  kind: string;
  /** Its name in the interface, and one sentence. */
  name: string;
  description: string;
  /** What else people call it, when they look for it. */
  words?: readonly string[];
  /** The strokes of its icon as SVG path data, on a grid of 24 by 24. */
  icon: string;
  fields: readonly NodeField[];
  children?: readonly ChildSlot[];
  /** The node in a few of its own words, for the outline. */
  label(node: N): string;
}

/** Writes what stands in a child slot, in MJML or as plain text. */
export type WriteChildren = (at: string) => string;

/** All that anybody knows of one kind of block. To add a kind, write one and list it in index.ts. */
export interface BlockDefinition<
  K extends string,
  S extends z.ZodType<{ kind: K }>,
> extends NodeKind<z.infer<S>> {
  kind: K;
  /** Without `else` and children: those are the same for all kinds. */
  schema: S;
  /** The block as it is when it is added, tied to what the shop really has. */
  make(id: string, sources: ShopSources): z.infer<S>;
  /** The field of the list that it walks, where it is a loop by itself. */
  list?: string;
  derived?(block: z.infer<S>): DerivedFormula[];
  textLooks?(block: z.infer<S>, style: HouseStyle): TextLooks;
  /** MJML for inside a column, with placeholders where it fills itself. */
  mjml(block: z.infer<S>, writer: Writer, children: WriteChildren): string;
  /** Its part of the plain text, with placeholders. */
  text(block: z.infer<S>, writer: Writer, children: WriteChildren): string;
}

/** Keeps the types of a definition. */
export function defineBlock<K extends string, S extends z.ZodType<{ kind: K }>>(
  definition: BlockDefinition<K, S>,
): BlockDefinition<K, S> {
  return definition;
}

const PLAIN_NAME = /^[\p{L}_][\p{L}\p{Nd}_]*$/u;

/** The formula of a catalog, a feed or a coupon by its name: `catalog.garden`. */
export function namedFormula(root: 'catalog' | 'feeds' | 'coupon', name: string): string {
  return PLAIN_NAME.test(name) ? `${root}.${name}` : `${root}[${JSON.stringify(name)}]`;
}

/** Whether a loop has any member at all, filtered. */
export function anyMember({ list, where }: Pick<Loop, 'list' | 'where'>): string {
  return where === undefined ? `count(${list}) > 0` : `count((${list}) where (${where})) > 0`;
}

/** What a loop walks, in words where it is a plain path. */
export function listWords(list: string): string {
  const parsed = parsedFormula(list);
  return (parsed.ok ? wordsOf(parsed.value) : null) ?? list;
}
