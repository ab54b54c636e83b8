import { z } from 'zod';
import { common } from '../template/parts';
import { defineBlock } from './define';

export const spacer = defineBlock({
  kind: 'spacer',
  name: 'Spacer',
  description: 'Space between two blocks.',
  words: ['gap', 'padding'],
  icon: 'M4 5h16 M4 19h16 M12 8v8 M10 10l2-2 2 2 M10 14l2 2 2-2',
  schema: z.strictObject({
    kind: z.literal('spacer'),
    ...common,
    height: z.number().int().min(1).max(200),
  }),
  make: (id) => ({ kind: 'spacer' as const, id, height: 24 }),
  fields: [{ control: 'number', path: 'height', label: 'Height', least: 1, most: 200, unit: 'px' }],
  label: (block) => `Spacer, ${block.height} px`,
  mjml: (block) => `<mj-spacer height="${block.height}px" />`,
  text: () => '',
});
