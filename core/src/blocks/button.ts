import { z } from 'zod';
import { Align, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';

const schema = z.strictObject({
  kind: z.literal('button'),
  ...common,
  ...looks,
  label: Running,
  href: Running,
  align: Align.optional(),
});

export const button = defineBlock({
  kind: 'button',
  name: 'Button',
  says: 'A link that stands out.',
  schema,
  make: (id) => ({ kind: 'button' as const, id, label: 'Read on', href: '{{ shop.url }}' }),
  slots(block, visit) {
    visit.running('label', block.label);
    visit.running('href', block.href);
  },
  mjml(block, writer) {
    const { style } = writer;
    return `<mj-button padding="${writer.padding(block.padding, 12, 12)}" align="${block.align ?? 'left'}" href="${writer.url(block.href, 'href')}" background-color="${style.primary}" color="${style.on_primary}" border-radius="${style.radius}px" font-size="${style.text_size}px" font-weight="600" inner-padding="12px 24px">${writer.running(block.label, 'html', 'label')}</mj-button>`;
  },
  text: (block, writer) =>
    `${writer.running(block.label, 'plain', 'label')}: ${writer.url(block.href, 'href', 'link', 'plain')}`,
});
