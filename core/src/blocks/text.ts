import { z } from 'zod';
import { escapeHtml } from '../render/escape';
import { richGist } from '../template/gist';
import { Align, Colour, common, looks } from '../template/parts';
import { RichText } from '../template/richText';
import { defineBlock } from './define';
import { alignField, SPACE, TEXT_COLOUR } from './fields';
import { richHtml, richPlain } from './rich';

const schema = z.strictObject({
  kind: z.literal('text'),
  ...common,
  ...looks,
  text: RichText,
  align: Align.optional(),
  size: z.number().int().min(10).max(40).optional(),
  colour: Colour.optional(),
});

export const text = defineBlock({
  kind: 'text',
  name: 'Text',
  description: 'Paragraphs and lists, with merge tags.',
  words: ['paragraph', 'words', 'copy'],
  icon: 'M4 6h16 M4 10h16 M4 14h16 M4 18h9',
  schema,
  make: (id) => ({
    kind: 'text' as const,
    id,
    text: {
      type: 'doc' as const,
      content: [
        { type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'Write here.' }] },
      ],
    },
  }),
  fields: [
    { control: 'rich', path: 'text', label: 'Text', inPlace: true },
    alignField('left'),
    {
      control: 'number',
      path: 'size',
      label: 'Text size',
      part: 'looks',
      placeholder: 'House style',
      optional: true,
      least: 10,
      most: 40,
      unit: 'px',
    },
    ...SPACE,
    TEXT_COLOUR,
  ],
  label: (block) => richGist(block.text) || 'Empty text',
  textLooks: ({ size, colour, align, padding }, style) => ({
    font: style.body_font,
    size: size ?? style.text_size,
    lineHeight: 1.5,
    colour: colour ?? style.ink,
    align: align ?? 'left',
    padding: { top: 8, bottom: 8, ...padding },
  }),
  mjml(block, writer) {
    const { style } = writer;
    const html = richHtml(block.text, writer, 'text');
    const size = block.size ?? style.text_size;
    return `<mj-text padding="${writer.padding(block.padding)}" align="${block.align ?? writer.start}" font-size="${size}px" color="${escapeHtml(block.colour ?? style.ink)}">${html}</mj-text>`;
  },
  text: (block, writer) => richPlain(block.text, writer, 'text'),
});
