import { z } from 'zod';
import { common } from '../template/parts';
import { defineBlock } from './define';

export const spacer = defineBlock({
  kind: 'spacer',
  name: 'Spacer',
  says: 'Room between two blocks.',
  schema: z.strictObject({
    kind: z.literal('spacer'),
    ...common,
    height: z.number().int().min(1).max(200),
  }),
  make: (id) => ({ kind: 'spacer' as const, id, height: 24 }),
  slots: () => undefined,
  mjml: (block) => `<mj-spacer height="${block.height}px" />`,
  text: () => '',
});
