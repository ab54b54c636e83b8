import { z } from 'zod';
import { gist } from '../template/gist';
import { Align, Colour, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { alignField, SPACE, TEXT_COLOUR } from './fields';

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
const LINE_HEIGHT = 1.25;
const TOP = 12;

export const heading = defineBlock({
  kind: 'heading',
  name: 'Heading',
  description: 'A title for what follows.',
  words: ['title', 'headline'],
  icon: 'M7 5v14 M17 5v14 M7 12h10',
  schema,
  make: (id) => ({ kind: 'heading' as const, id, text: 'A heading', level: 2 as const }),
  fields: [
    { control: 'line', path: 'text', label: 'Heading', holds: 'text', inPlace: true },
    {
      control: 'choice',
      as: 'menu',
      path: 'level',
      label: 'Level',
      options: [
        { value: 1, label: 'First: for the whole email' },
        { value: 2, label: 'Second: for a part' },
        { value: 3, label: 'Third: a small one' },
      ],
    },
    alignField('left'),
    ...SPACE,
    TEXT_COLOUR,
  ],
  label: (block) => gist(block.text) || 'Empty heading',
  textLooks: ({ level, colour, align, padding }, style) => ({
    font: style.heading_font,
    size: SIZE[level],
    lineHeight: LINE_HEIGHT,
    colour: colour ?? style.ink,
    align: align ?? 'left',
    padding: { top: TOP, bottom: 8, ...padding },
  }),
  mjml(block, writer) {
    const { style } = writer;
    const tag = `h${block.level}`;
    const html = `<${tag} style="margin:0;font-size:${SIZE[block.level]}px;line-height:${LINE_HEIGHT};font-weight:normal">${writer.running(block.text, 'html', 'text')}</${tag}>`;
    return `<mj-text padding="${writer.padding(block.padding, TOP)}" align="${block.align ?? writer.start}" font-family="${style.heading_font}" color="${block.colour ?? style.ink}">${html}</mj-text>`;
  },
  text: (block, writer) => writer.running(block.text, 'plain', 'text'),
});
