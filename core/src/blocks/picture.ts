import { z } from 'zod';
import { Align, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';

const schema = z.strictObject({
  kind: z.literal('picture'),
  ...common,
  ...looks,
  src: Running,
  alt: Running,
  href: Running.optional(),
  width: z.number().int().min(8).max(1200).optional(),
  align: Align.optional(),
});

export const picture = defineBlock({
  kind: 'picture',
  name: 'Picture',
  says: 'One picture, from an address or from the data.',
  schema,
  make: (id) => ({ kind: 'picture' as const, id, src: '{{ shop.logo }}', alt: '{{ shop.name }}' }),
  slots(block, visit) {
    visit.running('src', block.src);
    visit.running('alt', block.alt);
    visit.running('href', block.href);
  },
  mjml(block, writer) {
    const width = Math.min(block.width ?? writer.width - 48, writer.width - 48);
    const image = `<img src="${writer.url(block.src, 'src', 'picture')}" alt="${writer.running(block.alt, 'attribute', 'alt')}" width="${width}" style="display:block;border:0;width:100%;max-width:${width}px;height:auto;font-size:13px">`;
    const margin = { left: '0', center: '0 auto', right: '0 0 0 auto' }[block.align ?? 'center'];
    const framed = `<div style="max-width:${width}px;margin:${margin}">${writer.link(block.href, image, 'href')}</div>`;
    // A picture that a recipient does not have leaves no empty frame.
    const cell = `<tr><td align="${block.align ?? 'center'}" style="font-size:0;padding:${writer.padding(block.padding)}">${framed}</td></tr>`;
    return `<mj-raw>${writer.given(block.src, 'src', 'picture', cell)}</mj-raw>`;
  },
  text: (block, writer) => writer.running(block.alt, 'plain', 'alt'),
});
