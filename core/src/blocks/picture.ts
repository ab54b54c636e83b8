import { z } from 'zod';
import { gist } from '../template/gist';
import { RATIOS } from '../picture';
import { Align, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { alignField, SPACE } from './fields';
import { CORNERS_FIELD, imageHtml, RATIO_FIELD } from './image';

const schema = z.strictObject({
  kind: z.literal('picture'),
  ...common,
  ...looks,
  src: Running,
  alt: Running,
  href: Running.optional(),
  width: z.number().int().min(8).max(1200).optional(),
  ratio: z.enum(RATIOS).optional(),
  corners: z.number().int().min(0).max(200).optional(),
  align: Align.optional(),
});

export const picture = defineBlock({
  kind: 'picture',
  name: 'Picture',
  description: 'One picture, from the library, an address or the data.',
  words: ['image', 'photo', 'logo', 'banner'],
  icon: 'M4 5h16v14H4z M4 16l5-5 4 4 3-3 4 4 M15.500 8.500h.01',
  schema,
  make: (id) => ({ kind: 'picture' as const, id, src: '{{ shop.logo }}', alt: '{{ shop.name }}' }),
  fields: [
    { control: 'line', path: 'src', label: 'Picture', holds: 'picture', alt: 'alt' },
    {
      control: 'line',
      path: 'alt',
      label: 'Alt text',
      help: 'Read aloud, and shown when pictures are off',
      holds: 'text',
    },
    { control: 'line', path: 'href', label: 'Link', holds: 'link', optional: true },
    {
      control: 'number',
      path: 'width',
      label: 'Width',
      placeholder: 'As wide as its column',
      optional: true,
      least: 8,
      most: 1200,
      unit: 'px',
    },
    RATIO_FIELD,
    CORNERS_FIELD,
    alignField('center'),
    ...SPACE,
  ],
  label: (block) => gist(block.alt) || 'Picture',
  mjml(block, writer) {
    const width = Math.min(block.width ?? writer.width - 48, writer.width - 48);
    const { src, alt, ratio, corners } = block;
    const paths = { src: 'src', alt: 'alt' };
    const image = imageHtml({ src, alt, paths, width, ratio, corners }, writer);
    const margin = { left: '0', center: '0 auto', right: '0 0 0 auto' }[block.align ?? 'center'];
    const framed = `<div style="max-width:${width}px;margin:${margin}">${writer.link(block.href, image, 'href')}</div>`;
    // A picture that a recipient does not have leaves no empty frame.
    const cell = `<tr><td align="${block.align ?? 'center'}" style="font-size:0;padding:${writer.padding(block.padding)}">${framed}</td></tr>`;
    return `<mj-raw>${writer.ifAddress(block.src, 'src', 'picture', cell)}</mj-raw>`;
  },
  text: (block, writer) =>
    writer.ifAddress(block.src, 'src', 'picture', writer.running(block.alt, 'plain', 'alt')),
});
