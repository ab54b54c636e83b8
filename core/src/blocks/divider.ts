import { z } from 'zod';
import { common, looks } from '../template/parts';
import { defineBlock } from './define';
import { SPACE } from './fields';

export const divider = defineBlock({
  kind: 'divider',
  name: 'Divider',
  description: 'A thin line across the column.',
  words: ['rule', 'separator'],
  icon: 'M4 12h16',
  schema: z.strictObject({ kind: z.literal('divider'), ...common, ...looks }),
  make: (id) => ({ kind: 'divider' as const, id }),
  fields: SPACE,
  label: () => 'Divider',
  mjml: (block, writer) =>
    `<mj-divider padding="${writer.padding(block.padding, 12, 12)}" border-width="1px" border-color="${writer.style.rule}" />`,
  text: () => '----------',
});
