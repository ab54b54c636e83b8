import { z } from 'zod';
import type { Writer } from '../build/writer';
import { gist } from '../template/gist';
import { RATIOS } from '../picture';
import { common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { SPACE } from './fields';
import { CORNERS_FIELD, imageHtml, RATIO_FIELD } from './image';

const Picture = z.strictObject({ src: Running, alt: Running, href: Running.optional() });
type Picture = z.infer<typeof Picture>;

const schema = z.strictObject({
  kind: z.literal('gallery'),
  ...common,
  ...looks,
  pictures: z.array(Picture).min(2).max(6),
  ratio: z.enum(RATIOS).optional(),
  corners: z.number().int().min(0).max(200).optional(),
  arrangement: z.enum(['row', 'pairs', 'large_first']),
});
type Gallery = z.infer<typeof schema>;

const GAP = 8;

/** The pictures by rows, as they are arranged. */
function rowsOf({ pictures, arrangement }: Gallery): { picture: Picture; i: number }[][] {
  const all = pictures.map((picture, i) => ({ picture, i }));
  if (arrangement === 'row') return [all];
  const rows: (typeof all)[] = arrangement === 'large_first' ? [all.slice(0, 1)] : [];
  const rest = arrangement === 'large_first' ? all.slice(1) : all;
  const beside = arrangement === 'large_first' ? Math.min(3, rest.length) : 2;
  for (let at = 0; at < rest.length; at += beside) rows.push(rest.slice(at, at + beside));
  return rows;
}

function cellHtml(
  { src, alt, href }: Picture,
  i: number,
  { width, beside }: { width: number; beside: number },
  { ratio, corners }: Gallery,
  writer: Writer,
): string {
  const at = `pictures.${i}`;
  const paths = { src: `${at}.src`, alt: `${at}.alt` };
  const rounded = corners ?? writer.style.radius;
  const image = imageHtml({ src, alt, paths, width, ratio, corners: rounded }, writer);
  // A picture that a recipient does not have leaves its cell empty: the others keep their places.
  const shown = writer.ifAddress(
    src,
    `${at}.src`,
    'picture',
    writer.link(href, image, `${at}.href`),
    '&nbsp;',
  );
  // In percent, so that a narrow screen makes them smaller; long rows are folded there.
  const share = `${Math.floor(10000 / beside) / 100}%`;
  const folded = beside > 3 ? ' class="carafe-pictures"' : '';
  return `<td${folded} valign="top" width="${share}" style="width:${share};padding:${GAP / 2}px">${shown}</td>`;
}

export const gallery = defineBlock({
  kind: 'gallery',
  name: 'Gallery',
  description: 'Two to six pictures in an arrangement.',
  words: ['images', 'photos'],
  icon: 'M4 4h10v10H4z M16 4h4v4h-4z M16 10h4v4h-4z M4 16h7v4H4z M13 16h7v4h-7z',
  schema,
  make: (id) => ({
    kind: 'gallery' as const,
    id,
    pictures: [
      { src: '{{ shop.logo }}', alt: '{{ shop.name }}' },
      { src: '{{ shop.logo }}', alt: '{{ shop.name }}' },
    ],
    arrangement: 'row' as const,
  }),
  fields: [
    {
      control: 'choice',
      as: 'menu',
      path: 'arrangement',
      label: 'Arrangement',
      options: [
        { value: 'row', label: 'All in a row' },
        { value: 'pairs', label: 'Two in each row' },
        { value: 'large_first', label: 'One large, the others below' },
      ],
    },
    {
      control: 'list',
      path: 'pictures',
      label: 'Pictures',
      least: 2,
      most: 6,
      addLabel: 'Add a picture',
      kinds: [
        {
          show: null,
          name: 'Picture',
          make: () => ({ src: '{{ shop.logo }}', alt: '{{ shop.name }}' }),
          fields: [
            { control: 'line', path: 'src', label: 'Picture', holds: 'picture', alt: 'alt' },
            { control: 'line', path: 'alt', label: 'Alt text', holds: 'text' },
            { control: 'line', path: 'href', label: 'Link', holds: 'link', optional: true },
          ],
        },
      ],
    },
    RATIO_FIELD,
    { ...CORNERS_FIELD, placeholder: 'House style' },
    ...SPACE,
  ],
  label: (block) =>
    block.pictures.map(({ alt }) => gist(alt)).find((alt) => alt !== '') ?? 'Gallery',
  mjml(block, writer) {
    const inner = writer.width - 48 + GAP;
    const rows = rowsOf(block).map((row) => {
      const width = Math.floor(inner / row.length) - GAP;
      const cells = row
        .map(({ picture, i }) => cellHtml(picture, i, { width, beside: row.length }, block, writer))
        .join('');
      return `<table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%;table-layout:fixed"><tr>${cells}</tr></table>`;
    });
    const { top = 8, bottom = 8 } = block.padding ?? {};
    return `<mj-raw><tr><td style="padding:${top}px ${24 - GAP / 2}px ${bottom}px">${rows.join('')}</td></tr></mj-raw>`;
  },
  text: (block, writer) =>
    block.pictures
      .map(({ src, alt }, i) =>
        writer.ifAddress(
          src,
          `pictures.${i}.src`,
          'picture',
          `${writer.running(alt, 'plain', `pictures.${i}.alt`)}\n`,
        ),
      )
      .join(''),
});
