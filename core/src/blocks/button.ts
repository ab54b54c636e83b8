import { z } from 'zod';
import { gist } from '../template/gist';
import { Align, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { alignField, SPACE } from './fields';

/** MJML leaves raw pieces where they stand. */
const RAW = (placeholder: string) => `<mj-raw>${placeholder}</mj-raw>`;

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
  description: 'A link that stands out.',
  words: ['call to action', 'cta'],
  icon: 'M5 8h14a2 2 0 0 1 2 2v4a2 2 0 0 1-2 2H5a2 2 0 0 1-2-2v-4a2 2 0 0 1 2-2z M8 12h8',
  schema,
  make: (id) => ({ kind: 'button' as const, id, label: 'Read on', href: '{{ shop.url }}' }),
  fields: [
    { control: 'line', path: 'label', label: 'Label', holds: 'text' },
    { control: 'line', path: 'href', label: 'Link', holds: 'link' },
    alignField('left'),
    ...SPACE,
  ],
  label: (block) => gist(block.label) || 'Button',
  mjml(block, writer) {
    const { style } = writer;
    const made = `<mj-button padding="${writer.padding(block.padding, 12, 12)}" align="${block.align ?? writer.start}" href="${writer.url(block.href, 'href')}" background-color="${style.primary}" color="${style.on_primary}" border-radius="${style.radius}px" font-size="${style.text_size}px" font-weight="600" inner-padding="12px 24px">${writer.running(block.label, 'html', 'label')}</mj-button>`;
    // A button that leads nowhere is none.
    return writer.ifAddress(block.href, 'href', 'link', made, '', RAW);
  },
  text: (block, writer) =>
    writer.ifAddress(
      block.href,
      'href',
      'link',
      `${writer.running(block.label, 'plain', 'label')}: ${writer.url(block.href, 'href', 'link', 'plain')}`,
    ),
});
