import { z } from 'zod';
import type { Writer } from '../build/writer';
import { Align, common, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { alignField, SPACE } from './fields';

const schema = z.strictObject({
  kind: z.literal('foot'),
  ...common,
  ...looks,
  /** Why somebody gets the mail, or whatever else the law or the house asks for. */
  words: Running.optional(),
  unsubscribe: Running.optional(),
  preferences: Running.optional(),
  view: Running.optional(),
  align: Align.optional(),
});

/** The links of a recipient, in the order in which they stand. */
const LINKS = [
  ['unsubscribe', '{{ links.unsubscribe }}'],
  ['preferences', '{{ links.preferences }}'],
  ['view', '{{ links.view_in_browser }}'],
] as const;
const NAME = 'shop.name';
const ADDRESS = 'shop.address';

/** The labels that are given, with their places. */
const linksOf = (block: z.infer<typeof schema>) =>
  LINKS.flatMap(([path, href]) => {
    const label = block[path];
    return label ? [{ path, href, label }] : [];
  });

function sender(writer: Writer, place: 'html' | 'plain', between: string): string {
  const address = writer.value(ADDRESS, place, 'address');
  return (
    writer.value(NAME, place, 'name') +
    writer.when(`${ADDRESS} is filled`, 'address', `${between}${address}`)
  );
}

export const foot = defineBlock({
  kind: 'foot',
  name: 'Footer',
  description: 'The sender’s postal address, and links to unsubscribe.',
  words: ['footer', 'unsubscribe', 'imprint', 'legal'],
  icon: 'M4 5h16 M4 9h16 M12 21s-5-4-5-7a5 5 0 0 1 10 0c0 3-5 7-5 7z',
  schema,
  make: (id) => ({
    kind: 'foot' as const,
    id,
    unsubscribe: 'Unsubscribe',
    preferences: 'Email preferences',
  }),
  fields: [
    {
      control: 'line',
      path: 'words',
      label: 'Words above',
      placeholder: 'None',
      holds: 'text',
      optional: true,
      inPlace: 'when asked',
    },
    {
      control: 'line',
      path: 'unsubscribe',
      label: 'Link to unsubscribe',
      placeholder: 'Left out',
      holds: 'text',
      optional: true,
    },
    {
      control: 'line',
      path: 'preferences',
      label: 'Link to preferences',
      placeholder: 'Left out',
      holds: 'text',
      optional: true,
    },
    {
      control: 'line',
      path: 'view',
      label: 'Link to view in browser',
      placeholder: 'Left out',
      holds: 'text',
      optional: true,
    },
    alignField('center'),
    ...SPACE,
  ],
  label: () => 'Footer',
  derived: () => [{ path: 'name', source: NAME, use: 'value', inList: false }],
  mjml(block, writer) {
    const { style } = writer;
    const words = block.words
      ? `<div style="padding-bottom:6px">${writer.running(block.words, 'html', 'words')}</div>`
      : '';
    const links = linksOf(block)
      .map(
        ({ path, href, label }) =>
          `<a href="${writer.url(href, path)}" target="_blank" style="color:${style.quiet};text-decoration:underline">${writer.running(label, 'html', path)}</a>`,
      )
      .join(' · ');
    return `<mj-raw><tr><td align="${block.align ?? 'center'}" style="padding:${writer.padding(block.padding)};font-family:${style.body_font};font-size:12px;line-height:1.6;color:${style.quiet}">${words}<div>${sender(writer, 'html', ', ')}</div>${links === '' ? '' : `<div>${links}</div>`}</td></tr></mj-raw>`;
  },
  text(block, writer) {
    const words = block.words ? `${writer.running(block.words, 'plain', 'words')}\n` : '';
    const links = linksOf(block)
      .map(
        ({ path, href, label }) =>
          `\n${writer.running(label, 'plain', path)}: ${writer.url(href, path, 'link', 'plain')}`,
      )
      .join('');
    return `${words}${sender(writer, 'plain', ', ')}${links}`;
  },
});
