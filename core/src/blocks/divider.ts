import { z } from 'zod';
import { common, looks } from '../template/parts';
import { defineBlock } from './define';

export const divider = defineBlock({
  kind: 'divider',
  name: 'Divider',
  says: 'A thin line.',
  schema: z.strictObject({ kind: z.literal('divider'), ...common, ...looks }),
  make: (id) => ({ kind: 'divider' as const, id }),
  slots: () => undefined,
  mjml: (block, writer) =>
    `<mj-divider padding="${writer.padding(block.padding, 12, 12)}" border-width="1px" border-color="${writer.style.rule}" />`,
  text: () => '----------',
});
