import { z } from 'zod';
import { gist } from '../template/gist';
import { Align, Colour, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { alignField, SPACE, TEXT_COLOUR } from './fields';

const schema = z.strictObject({
  kind: z.literal('menu'),
  ...common,
  ...looks,
  links: z
    .array(z.strictObject({ label: Running, href: Running }))
    .min(1)
    .max(12),
  align: Align.optional(),
  colour: Colour.optional(),
});

export const menu = defineBlock({
  kind: 'menu',
  name: 'Menu',
  description: 'Links in a row, to the parts of the shop.',
  words: ['navigation'],
  icon: 'M3 12h4 M10 12h4 M17 12h4 M3 15h4 M10 15h4 M17 15h4',
  schema,
  make: (id) => ({
    kind: 'menu' as const,
    id,
    links: [
      { label: 'Shop', href: '{{ shop.url }}' },
      { label: 'Unsubscribe', href: '{{ links.unsubscribe }}' },
    ],
  }),
  fields: [
    {
      control: 'list',
      path: 'links',
      label: 'Links',
      least: 1,
      most: 12,
      addLabel: 'Add a link',
      kinds: [
        {
          show: null,
          name: 'Link',
          make: () => ({ label: 'New', href: '{{ shop.url }}' }),
          fields: [
            { control: 'line', path: 'label', label: 'Label', holds: 'text' },
            { control: 'line', path: 'href', label: 'Link', holds: 'link' },
          ],
        },
      ],
    },
    alignField('center'),
    ...SPACE,
    TEXT_COLOUR,
  ],
  label: (block) => block.links.map(({ label }) => gist(label)).join(', '),
  mjml(block, writer) {
    const { style } = writer;
    // A link that leads nowhere is left out.
    const links = block.links.map(({ label, href }, i) =>
      writer.ifAddress(
        href,
        `links.${i}.href`,
        'link',
        `<a href="${writer.url(href, `links.${i}.href`)}" target="_blank" style="display:inline-block;padding:6px 10px;color:${block.colour ?? style.ink};text-decoration:none">${writer.running(label, 'html', `links.${i}.label`)}</a>`,
      ),
    );
    return `<mj-raw><tr><td align="${block.align ?? 'center'}" style="padding:${writer.padding(block.padding)};font-family:${style.body_font};font-size:${style.text_size - 1}px;line-height:1.4">${links.join(' ')}</td></tr></mj-raw>`;
  },
  text: (block, writer) =>
    block.links
      .map(({ label, href }, i) =>
        writer.ifAddress(
          href,
          `links.${i}.href`,
          'link',
          `${writer.running(label, 'plain', `links.${i}.label`)}: ${writer.url(href, `links.${i}.href`, 'link', 'plain')}\n`,
        ),
      )
      .join(''),
});
