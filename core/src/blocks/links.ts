import { z } from 'zod';
import { ICON_KINDS, ICON_SHAPES, iconAddress, ICONS } from '../picture';
import { Align, Colour, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { alignField, SPACE } from './fields';

const schema = z.strictObject({
  kind: z.literal('links'),
  ...common,
  ...looks,
  places: z
    .array(z.strictObject({ show: z.enum(ICON_KINDS), href: Running, label: Running }))
    .min(1)
    .max(11),
  shape: z.enum(ICON_SHAPES),
  size: z.number().int().min(16).max(48).optional(),
  /** One colour for all; each has its own where it is left out. */
  colour: Colour.optional(),
  align: Align.optional(),
});

const USUAL_SIZE = 32;

export const links = defineBlock({
  kind: 'links',
  name: 'Links',
  description: 'Links to the shop’s other channels, as icons.',
  words: ['social', 'follow'],
  icon: 'M7 8a4 4 0 1 0 0 8 4 4 0 0 0 0-8 M17 8a4 4 0 1 0 0 8 4 4 0 0 0 0-8',
  schema,
  make: (id) => ({
    kind: 'links' as const,
    id,
    places: (['shop', 'journal', 'pictures', 'mail'] as const).map((show) => ({
      show,
      href: show === 'shop' ? '{{ shop.url }}' : '',
      label: ICONS[show].name,
    })),
    shape: 'round' as const,
  }),
  fields: [
    {
      control: 'list',
      path: 'places',
      label: 'Places',
      help: 'Icons without an address are left out',
      least: 1,
      most: 11,
      addLabel: 'Add a place',
      kinds: ICON_KINDS.map((show) => ({
        show,
        name: ICONS[show].name,
        once: true,
        make: () => ({ show, href: '', label: ICONS[show].name }),
        fields: [
          { control: 'line', path: 'href', label: 'Link', holds: 'link' },
          {
            control: 'line',
            path: 'label',
            label: 'Alt text',
            help: 'Read aloud, and shown when pictures are off',
            holds: 'text',
          },
        ],
      })),
    },
    {
      control: 'choice',
      as: 'bar',
      path: 'shape',
      label: 'Shape',
      part: 'looks',
      options: [
        { value: 'round', label: 'Round' },
        { value: 'square', label: 'Square' },
        { value: 'plain', label: 'Plain' },
      ],
    },
    {
      control: 'number',
      path: 'size',
      label: 'Size',
      part: 'looks',
      optional: true,
      placeholder: String(USUAL_SIZE),
      least: 16,
      most: 48,
      unit: 'px',
    },
    {
      control: 'colour',
      path: 'colour',
      label: 'One colour for all',
      part: 'looks',
      optional: true,
      placeholder: 'Each its own',
    },
    alignField('center'),
    ...SPACE,
  ],
  label: ({ places }) => places.map(({ show }) => ICONS[show].name).join(', '),
  mjml(block, writer) {
    const size = block.size ?? USUAL_SIZE;
    const icons = block.places.map(({ show, href, label }, i) => {
      const src = iconAddress(show, block.shape, block.colour ?? ICONS[show].colour);
      const image = `<img src="${writer.url(src, `places.${i}`, 'picture')}" alt="${writer.running(label, 'attribute', `places.${i}.label`)}" width="${size}" height="${size}" style="display:block;border:0;width:${size}px;height:${size}px;font-size:12px">`;
      const path = `places.${i}.href`;
      return writer.ifAddress(
        href,
        path,
        'link',
        `<a href="${writer.url(href, path)}" target="_blank" style="display:inline-block;padding:4px 6px;color:${writer.style.ink};text-decoration:none">${image}</a>`,
      );
    });
    return `<mj-raw><tr><td align="${block.align ?? 'center'}" style="padding:${writer.padding(block.padding)};font-family:${writer.style.body_font}">${icons.join('')}</td></tr></mj-raw>`;
  },
  text: (block, writer) =>
    block.places
      .map(({ href, label }, i) =>
        writer.ifAddress(
          href,
          `places.${i}.href`,
          'link',
          `${writer.running(label, 'plain', `places.${i}.label`)}: ${writer.url(href, `places.${i}.href`, 'link', 'plain')}\n`,
        ),
      )
      .join(''),
});
