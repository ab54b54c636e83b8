import { z } from 'zod';
import { Colour, common, looks } from '../template/parts';
import { defineBlock } from './define';
import { OWN_NAME, SPACE } from './fields';

export const group = defineBlock({
  kind: 'group',
  name: 'Group',
  description: 'Blocks kept together: they show, repeat and move as one.',
  words: ['container', 'wrapper'],
  icon: 'M4 8V4h4 M16 4h4v4 M20 16v4h-4 M8 20H4v-4 M8 9h8v6H8z',
  schema: z.strictObject({
    kind: z.literal('group'),
    ...common,
    ...looks,
    name: z.string().max(100).optional(),
    background: Colour.optional(),
  }),
  make: (id) => ({ kind: 'group' as const, id }),
  fields: [
    OWN_NAME,
    {
      control: 'colour',
      path: 'background',
      label: 'Background',
      placeholder: 'None',
      part: 'looks',
      optional: true,
    },
    ...SPACE,
  ],
  children: [{ at: 'blocks', accepts: 'block', most: 100 }],
  label: (block) => block.name ?? 'Group',
  mjml(block, { style }, children) {
    const { top = 0, bottom = 0 } = block.padding ?? {};
    const ground = block.background ? `background:${block.background};` : '';
    const open = `<tr><td style="${ground}padding:${top}px 0 ${bottom}px;font-family:${style.body_font}"><table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%"><tbody>`;
    return `<mj-raw>${open}</mj-raw>${children('blocks')}<mj-raw></tbody></table></td></tr></mj-raw>`;
  },
  text: (_block, _writer, children) => children('blocks').trimEnd(),
});
