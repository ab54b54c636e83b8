import { z } from 'zod';
import { gist } from '../template/gist';
import { libraryPicture, RATIOS, type Ratio } from '../picture';
import { common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { SPACE } from './fields';
import { CORNERS_FIELD, imageHtml, RATIO_FIELD } from './image';

const schema = z.strictObject({
  kind: z.literal('video'),
  ...common,
  ...looks,
  /** Where it is watched. */
  href: Running,
  /** A still of it. */
  src: Running,
  alt: Running,
  /** Words below the picture that lead there, too. */
  label: Running.optional(),
  ratio: z.enum(RATIOS).optional(),
  corners: z.number().int().min(0).max(200).optional(),
});

export const video = defineBlock({
  kind: 'video',
  name: 'Video',
  description: 'A still picture with a play mark, that leads to a video.',
  words: ['film', 'clip'],
  icon: 'M4 5h16v14H4z M10 9l5 3-5 3z',
  schema,
  make: (id) => ({
    kind: 'video' as const,
    id,
    href: '{{ shop.url }}',
    src: '{{ shop.logo }}',
    alt: 'Watch the video',
    label: 'Watch the video',
  }),
  fields: [
    { control: 'line', path: 'href', label: 'Where it is watched', holds: 'link' },
    {
      control: 'line',
      path: 'src',
      label: 'Still picture',
      help: 'One of the library gets a play mark drawn on it',
      holds: 'picture',
      alt: 'alt',
    },
    { control: 'line', path: 'alt', label: 'Alt text', holds: 'text' },
    {
      control: 'line',
      path: 'label',
      label: 'Words below',
      placeholder: 'None',
      holds: 'text',
      optional: true,
    },
    { ...RATIO_FIELD, initial: '16:9' satisfies Ratio },
    CORNERS_FIELD,
    ...SPACE,
  ],
  label: (block) => gist(block.alt) || 'Video',
  mjml(block, writer) {
    const { href, src, alt, corners } = block;
    const width = writer.width - 48;
    const marked = libraryPicture(src) !== null;
    const image = imageHtml(
      {
        ...{ src, alt, width, corners, marked },
        paths: { src: 'src', alt: 'alt' },
        ratio: block.ratio ?? '16:9',
      },
      writer,
    );
    const linked = writer.link(href, image, 'href');
    const picture = writer.ifAddress(src, 'src', 'picture', linked);
    const words = block.label
      ? writer.ifAddress(
          href,
          'href',
          'link',
          `<div style="padding-top:8px;font-size:${writer.style.text_size - 1}px"><a href="${writer.url(href, 'href')}" target="_blank" style="color:${writer.style.primary}">&#9654;&#65038; ${writer.running(block.label, 'html', 'label')}</a></div>`,
        )
      : '';
    return `<mj-raw><tr><td align="center" style="padding:${writer.padding(block.padding)};font-family:${writer.style.body_font}">${picture}${words}</td></tr></mj-raw>`;
  },
  text: (block, writer) =>
    writer.ifAddress(
      block.href,
      'href',
      'link',
      `${writer.running(block.label ?? block.alt, 'plain', 'label')}: ${writer.url(block.href, 'href', 'link', 'plain')}`,
    ),
});
