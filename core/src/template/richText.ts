import { z } from 'zod';

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
    attrs: z.object({ href: z.string().max(4000) }),
  }),
]);
export type Mark = z.infer<typeof Mark>;

const Inline = z.discriminatedUnion('type', [
  z.strictObject({
    type: z.literal('text'),
    text: z.string().min(1).max(20_000),
    marks: z.array(Mark).max(8).optional(),
  }),
  z.strictObject({
    type: z.literal('tag'),
    attrs: z.strictObject({ formula: z.string().max(4000) }),
    marks: z.array(Mark).max(8).optional(),
  }),
  z.strictObject({ type: z.literal('hardBreak'), marks: z.array(Mark).max(8).optional() }),
]);
export type Inline = z.infer<typeof Inline>;

const Paragraph = z.strictObject({
  type: z.literal('paragraph'),
  content: z.array(Inline).max(2000).optional(),
});
const ListItem = z.strictObject({
  type: z.literal('listItem'),
  content: z.array(Paragraph).max(50),
});
const List = z.strictObject({
  type: z.enum(['bulletList', 'orderedList']),
  content: z.array(ListItem).max(200),
});
const RichBlock = z.union([Paragraph, List]);
export type RichBlock = z.infer<typeof RichBlock>;

export const RichText = z.strictObject({
  type: z.literal('doc'),
  content: z.array(RichBlock).max(500),
});
export type RichText = z.infer<typeof RichText>;

/** Calls `visit` for every inline of a text, in reading order. */
export function walkInlines(text: RichText, visit: (inline: Inline) => void): void {
  const paragraphs = text.content.flatMap((block) =>
    block.type === 'paragraph' ? [block] : block.content.flatMap((item) => item.content),
  );
  for (const paragraph of paragraphs) paragraph.content?.forEach(visit);
}
