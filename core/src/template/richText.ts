import { z } from 'zod';
import { Formula, Running } from './parts';

/**
 * Words of a text block as a small document: paragraphs and lists of words, line breaks and merge
 * tags. The shape is the JSON of a ProseMirror document, so that an editor reads it as it is.
 */
const Mark = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('bold') }),
  z.strictObject({ type: z.literal('italic') }),
  z.strictObject({ type: z.literal('underline') }),
  z.strictObject({
    type: z.literal('link'),
    // Running text, so that an address can be filled as well.
    attrs: z.object({ href: Running }),
  }),
]);
export type Mark = z.infer<typeof Mark>;

/** So many letters stand in one piece; longer words are several pieces. */
export const MAX_WORDS = 20_000;

const Inline = z.discriminatedUnion('type', [
  z.strictObject({
    type: z.literal('text'),
    text: z.string().min(1).max(MAX_WORDS),
    marks: z.array(Mark).max(8).optional(),
  }),
  z.strictObject({
    type: z.literal('tag'),
    attrs: z.strictObject({ formula: Formula }),
    marks: z.array(Mark).max(8).optional(),
  }),
  z.strictObject({ type: z.literal('hardBreak'), marks: z.array(Mark).max(8).optional() }),
]);
export type Inline = z.infer<typeof Inline>;

const Paragraph = z.strictObject({
  type: z.literal('paragraph'),
  content: z.array(Inline).max(5000).optional(),
});
export type Paragraph = z.infer<typeof Paragraph>;

export interface ListItem {
  type: 'listItem';
  content: (Paragraph | RichList)[];
}
export interface RichList {
  type: 'bulletList' | 'orderedList';
  content: ListItem[];
}

/** Lists stand in lists so deep. */
export const MAX_LIST_DEPTH = 6;

function listOf(depth: number): z.ZodType<RichList> {
  const content = depth > 1 ? z.union([Paragraph, listOf(depth - 1)]) : Paragraph;
  const item = z.strictObject({
    type: z.literal('listItem'),
    content: z.array(content).max(500),
  });
  return z.strictObject({
    type: z.enum(['bulletList', 'orderedList']),
    content: z.array(item).max(2000),
  });
}
const RichBlock = z.union([Paragraph, listOf(MAX_LIST_DEPTH)]);
export type RichBlock = Paragraph | RichList;

export const RichText = z.strictObject({
  type: z.literal('doc'),
  content: z.array(RichBlock).max(5000),
});
export interface RichText {
  type: 'doc';
  content: RichBlock[];
}

/** Calls `visit` for every inline of a text, in reading order. */
export function walkInlines(text: RichText, visit: (inline: Inline) => void): void {
  const walk = (block: RichBlock): void => {
    if (block.type === 'paragraph') block.content?.forEach(visit);
    else for (const item of block.content) item.content.forEach(walk);
  };
  text.content.forEach(walk);
}
