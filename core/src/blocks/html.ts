import { z } from 'zod';
import { common, looks } from '../template/parts';
import { defineBlock } from './define';
import { SPACE } from './fields';

const MAX_HTML = 100_000;

export const html = defineBlock({
  kind: 'html',
  name: 'HTML',
  description: 'HTML of your own, cleaned, with merge tags.',
  words: ['code', 'embed'],
  icon: 'M8 7l-5 5 5 5 M16 7l5 5-5 5 M14 4l-4 16',
  schema: z.strictObject({
    kind: z.literal('html'),
    ...common,
    ...looks,
    source: z.string().max(MAX_HTML),
  }),
  make: (id) => ({
    kind: 'html' as const,
    id,
    source: '<p>Hello {{ person.first_name otherwise "there" }}</p>',
  }),
  fields: [
    {
      control: 'line',
      path: 'source',
      label: 'HTML',
      help: 'Scripts, forms and frames are removed',
      holds: 'html',
    },
    ...SPACE,
  ],
  label: (block) =>
    block.source
      .replace(/<[^>]*>|\{\{[^}]*\}\}/g, ' ')
      .trim()
      .slice(0, 60) || 'HTML',
  mjml(block, writer) {
    const { style } = writer;
    const inside = writer.rawHtml(block.source, 'source');
    return `<mj-raw><tr><td align="${writer.start}" style="padding:${writer.padding(block.padding)};font-family:${style.body_font};font-size:${style.text_size}px;line-height:1.5;color:${style.ink}">${inside}</td></tr></mj-raw>`;
  },
  text: (block, writer) => writer.rawText(block.source, 'source'),
});
