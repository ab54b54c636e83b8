import { z } from 'zod';
import { Align, Colour, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';

const schema = z.strictObject({
  kind: z.literal('heading'),
  ...common,
  ...looks,
  text: Running,
  level: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  align: Align.optional(),
  colour: Colour.optional(),
});

const SIZE = { 1: 30, 2: 22, 3: 17 } as const;

export const heading = defineBlock({
  kind: 'heading',
  name: 'Heading',
  says: 'A line that names what follows.',
  schema,
  make: (id) => ({ kind: 'heading' as const, id, text: 'A heading', level: 2 as const }),
  slots: (block, visit) => visit.running('text', block.text),
  mjml(block, writer) {
    const { style } = writer;
    const tag = `h${block.level}`;
    const html = `<${tag} style="margin:0;font-size:${SIZE[block.level]}px;line-height:1.25;font-weight:normal">${writer.running(block.text, 'html', 'text')}</${tag}>`;
    return `<mj-text padding="${writer.padding(block.padding, 12)}" align="${block.align ?? 'left'}" font-family="${style.heading_font}" color="${block.colour ?? style.ink}">${html}</mj-text>`;
  },
  text: (block, writer) => writer.running(block.text, 'plain', 'text'),
});
