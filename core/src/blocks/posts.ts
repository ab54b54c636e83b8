import { z } from 'zod';
import type { Writer } from '../build/writer';
import { common, looks, Loop, Running } from '../template/parts';
import { anyMember, defineBlock, listWords, namedFormula } from './define';
import { EMPTY_WORDS, SPACE, type MemberKind } from './fields';

const Part = z.discriminatedUnion('show', [
  z.strictObject({ show: z.literal('title') }),
  z.strictObject({ show: z.literal('date'), format: z.enum(['short', 'medium', 'long']) }),
  z.strictObject({ show: z.literal('author') }),
  z.strictObject({ show: z.literal('summary'), characters: z.number().int().min(20).max(1000) }),
  /** All that the post says: as text, or with its headings, lists, links and pictures. */
  z.strictObject({ show: z.literal('whole'), formatted: z.boolean().optional() }),
  z.strictObject({ show: z.literal('link'), label: Running }),
]);
type Part = z.infer<typeof Part>;

const schema = z.strictObject({
  kind: z.literal('posts'),
  ...common,
  ...looks,
  items: Loop,
  parts: z.array(Part).min(1).max(10),
  picture: z.enum(['above', 'beside', 'none']),
  /** The width of a picture beside the words, in pixels. */
  picture_width: z.number().int().min(60).max(300).optional(),
  /** The first post is shown over the whole width. */
  first_large: z.boolean().optional(),
  /** What is said where there is no post; nothing where it is left out. */
  empty: Running.optional(),
});
type Posts = z.infer<typeof schema>;

const DEFAULT_WIDTH = 140;

/** The formulas of a post's parts, for the name that the post has in its loop. */
const formulas = (as: string) => ({
  title: `${as}.title`,
  link: `{{ ${as}.link }}`,
  image: `{{ ${as}.image }}`,
  author: `${as}.author`,
  date: `${as}.published_at`,
  summary: `${as}.summary`,
  content: `${as}.content`,
  whole: `plain(${as}.content) otherwise ${as}.summary`,
});

const PARTS: readonly MemberKind[] = [
  { show: 'title', name: 'Title', once: true, make: () => ({ show: 'title' }), fields: [] },
  {
    show: 'date',
    name: 'Date',
    once: true,
    make: () => ({ show: 'date', format: 'long' }),
    fields: [
      {
        control: 'choice',
        as: 'menu',
        path: 'format',
        label: 'Format',
        options: [
          { value: 'short', label: 'Short' },
          { value: 'medium', label: 'Medium' },
          { value: 'long', label: 'Long' },
        ],
      },
    ],
  },
  { show: 'author', name: 'Author', once: true, make: () => ({ show: 'author' }), fields: [] },
  {
    show: 'summary',
    name: 'Summary',
    once: true,
    make: () => ({ show: 'summary', characters: 200 }),
    fields: [
      {
        control: 'number',
        path: 'characters',
        label: 'At most',
        least: 20,
        most: 1000,
        unit: 'characters',
      },
    ],
  },
  {
    show: 'whole',
    name: 'Whole post',
    once: true,
    make: () => ({ show: 'whole', formatted: true }),
    fields: [
      {
        control: 'switch',
        path: 'formatted',
        label: 'With its headings, links and pictures',
        optional: true,
      },
    ],
  },
  {
    show: 'link',
    name: 'Link',
    once: true,
    make: () => ({ show: 'link', label: 'Read on' }),
    fields: [{ control: 'line', path: 'label', label: 'Label', holds: 'text' }],
  },
];

function partHtml(part: Part, i: number, large: boolean, as: string, writer: Writer): string {
  const { style } = writer;
  const f = formulas(as);
  const row = (html: string, css = '') => `<div style="padding:0 0 6px;${css}">${html}</div>`;
  const quiet = `font-size:13px;color:${style.quiet};`;
  const filled = (formula: string, path: string, html: string) =>
    writer.when(`${formula} is filled`, path, html);
  switch (part.show) {
    case 'title': {
      const title = writer.value(f.title, 'html', 'items.title');
      const size = large ? 24 : style.text_size + 2;
      return row(
        writer.link(f.link, title, 'items.link', 'text-decoration:none;'),
        `font-family:${style.heading_font};font-size:${size}px;line-height:1.25;`,
      );
    }
    case 'date':
      return filled(
        f.date,
        'items.date',
        row(writer.value(`date(${f.date}, "${part.format}")`, 'html', 'items.date'), quiet),
      );
    case 'author':
      return filled(
        f.author,
        'items.author',
        row(writer.value(f.author, 'html', 'items.author'), quiet),
      );
    case 'summary':
      return filled(
        f.summary,
        'items.summary',
        row(writer.value(`shorten(${f.summary}, ${part.characters})`, 'html', 'items.summary')),
      );
    case 'whole': {
      const text = row(writer.value(f.whole, 'html', 'items.whole'));
      const asText = filled(`(${f.whole})`, 'items.whole', text);
      if (!part.formatted) return asText;
      const markup = row(writer.value(f.content, 'markup', 'items.whole'));
      return writer.when(`${f.content} is filled`, 'items.whole', markup, asText);
    }
    case 'link':
      return writer.ifAddress(
        f.link,
        'items.link',
        'link',
        row(
          `<a href="${writer.url(f.link, 'items.link')}" target="_blank" style="color:${style.primary};font-weight:600">${writer.running(part.label, 'html', `parts.${i}.label`)}</a>`,
        ),
      );
  }
}

function partText(part: Part, i: number, as: string, writer: Writer): string {
  const f = formulas(as);
  const line = (formula: string, printed: string, path: string) =>
    writer.when(`${formula} is filled`, path, `${writer.value(printed, 'plain', path)}\n`);
  switch (part.show) {
    case 'title':
      return line(f.title, f.title, 'items.title');
    case 'date':
      return line(f.date, `date(${f.date}, "${part.format}")`, 'items.date');
    case 'author':
      return line(f.author, f.author, 'items.author');
    case 'summary':
      return line(f.summary, `shorten(${f.summary}, ${part.characters})`, 'items.summary');
    case 'whole':
      return line(`(${f.whole})`, f.whole, 'items.whole');
    case 'link':
      return writer.ifAddress(
        f.link,
        'items.link',
        'link',
        `${writer.running(part.label, 'plain', `parts.${i}.label`)}: ${writer.url(f.link, 'items.link', 'link', 'plain')}\n`,
      );
  }
}

/** One post; `large` is over the whole width, its picture above the words. */
function postHtml(block: Posts, large: boolean, writer: Writer): string {
  const { style } = writer;
  const { as } = block.items;
  const f = formulas(as);
  const words = block.parts.map((part, i) => partHtml(part, i, large, as, writer)).join('');
  const row = (cells: string) =>
    `<table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%"><tr>${cells}</tr></table>`;
  const end = `padding:0 0 20px;`;
  if (block.picture === 'none') return row(`<td valign="top" style="${end}">${words}</td>`);
  const isBeside = block.picture === 'beside' && !large;
  const width = isBeside ? (block.picture_width ?? DEFAULT_WIDTH) : writer.width - 48;
  // A picture that leads somewhere is called by its post, also where its title stands beside it.
  const alt = writer.value(f.title, 'attribute', 'items.title');
  const image = `<img src="${writer.url(f.image, 'items.image', 'picture')}" alt="${alt}" width="${width}" style="display:block;border:0;width:100%;max-width:${width}px;height:auto;border-radius:${style.radius}px">`;
  const linked = writer.link(f.link, image, 'items.link');
  const some = (html: string) => writer.ifAddress(f.image, 'items.image', 'picture', html);
  if (isBeside)
    return row(
      `${some(`<td valign="top" width="${width}" style="width:${width}px;${end}padding-${writer.finish}:16px">${linked}</td>`)}<td valign="top" style="${end}">${words}</td>`,
    );
  return row(
    `<td valign="top" style="${end}">${some(`<div style="padding:0 0 10px">${linked}</div>`)}${words}</td>`,
  );
}

export const posts = defineBlock({
  kind: 'posts',
  name: 'Posts',
  description: 'The latest posts of a feed, the first one large if wanted.',
  words: ['blog', 'news', 'articles', 'feed', 'journal'],
  icon: 'M4 5h16v7H4z M4 15h7v4H4z M14 15h6 M14 19h6',
  schema,
  make: (id, { feeds: [feed] }) => ({
    kind: 'posts' as const,
    id,
    items: {
      list: feed === undefined ? 'missing' : `${namedFormula('feeds', feed)}.posts`,
      as: 'post',
      sort: { by: 'post.published_at', direction: 'descending' as const },
      at_most: 3,
    },
    parts: [
      { show: 'title' as const },
      { show: 'date' as const, format: 'long' as const },
      { show: 'summary' as const, characters: 200 },
      { show: 'link' as const, label: 'Read on' },
    ],
    picture: 'beside' as const,
  }),
  list: 'items',
  fields: [
    { control: 'switch', path: 'first_large', label: 'First one large', optional: true },
    {
      control: 'choice',
      as: 'bar',
      path: 'picture',
      label: 'Picture',
      options: [
        { value: 'above', label: 'Above' },
        { value: 'beside', label: 'Beside' },
        { value: 'none', label: 'None' },
      ],
    },
    {
      control: 'number',
      path: 'picture_width',
      label: 'Width beside the words',
      placeholder: `${DEFAULT_WIDTH} px`,
      part: 'looks',
      optional: true,
      least: 60,
      most: 300,
      unit: 'px',
    },
    {
      control: 'list',
      path: 'parts',
      label: 'Each post',
      inList: true,
      least: 1,
      most: 10,
      addLabel: 'Add to each post',
      kinds: PARTS,
    },
    EMPTY_WORDS,
    ...SPACE,
  ],
  label: (block) => `Posts of ${listWords(block.items.list)}`,
  mjml(block, writer) {
    const { style } = writer;
    const small = postHtml(block, false, writer);
    const each = block.first_large
      ? writer.when('loop.first', 'first_large', postHtml(block, true, writer), small)
      : small;
    const all = writer.loop(block.items, 'items', each);
    const empty = block.empty ? writer.running(block.empty, 'html', 'empty') : '';
    const shown =
      empty === '' ? all : writer.when(anyMember(block.items), 'empty', all, `<div>${empty}</div>`);
    return `<mj-raw><tr><td align="${writer.start}" style="padding:${writer.padding(block.padding, 8, 0)};font-family:${style.body_font};font-size:${style.text_size - 1}px;line-height:1.5;color:${style.ink}">${shown}</td></tr></mj-raw>`;
  },
  text(block, writer) {
    const { as } = block.items;
    const each = block.parts.map((part, i) => partText(part, i, as, writer)).join('');
    const all = writer.loop(block.items, 'items', `${each}\n`);
    if (!block.empty) return all;
    return writer.when(
      anyMember(block.items),
      'empty',
      all,
      writer.running(block.empty, 'plain', 'empty'),
    );
  },
});
