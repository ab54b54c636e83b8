import { z } from 'zod';
import { escapeHtml } from '../render/escape';
import type { Writer } from '../build/writer';
import { richGist } from '../template/gist';
import { Align, Colour, common, looks } from '../template/parts';
import { RichText, type Inline, type RichBlock, type RichList } from '../template/richText';
import { defineBlock } from './define';
import { alignField, SPACE, TEXT_COLOUR } from './fields';

const schema = z.strictObject({
  kind: z.literal('text'),
  ...common,
  ...looks,
  text: RichText,
  align: Align.optional(),
  size: z.number().int().min(10).max(40).optional(),
  colour: Colour.optional(),
});

const WRAP = { bold: 'strong', italic: 'em', underline: 'u' } as const;

function inlineHtml(inline: Inline, writer: Writer): string {
  if (inline.type === 'hardBreak') return '<br>';
  const words =
    inline.type === 'text'
      ? writer.words(inline.text, 'html')
      : writer.value(inline.attrs.formula, 'html', 'text');
  return (inline.marks ?? []).reduce((html, mark) => {
    if (mark.type === 'link')
      return writer.link(mark.attrs.href, html, 'text', `color:${writer.style.primary};`);
    const tag = WRAP[mark.type];
    return `<${tag}>${html}</${tag}>`;
  }, words);
}

function inlineText(inline: Inline, writer: Writer): string {
  if (inline.type === 'hardBreak') return '\n';
  const words =
    inline.type === 'text'
      ? writer.words(inline.text, 'plain')
      : writer.value(inline.attrs.formula, 'plain', 'text');
  const link = inline.marks?.find((mark) => mark.type === 'link');
  if (!link) return words;
  const { href } = link.attrs;
  const address = ` (${writer.url(href, 'text', 'link', 'plain')})`;
  return words + writer.ifAddress(href, 'text', 'link', address);
}

function paragraph(content: Inline[] | undefined, write: (inline: Inline) => string): string {
  return (content ?? []).map(write).join('');
}

function listHtml(list: RichList, writer: Writer, margin: string): string {
  const tag = list.type === 'bulletList' ? 'ul' : 'ol';
  const html = (part: RichBlock, i: number, parts: RichBlock[]) => {
    if (part.type !== 'paragraph') return listHtml(part, writer, '0');
    const words = paragraph(part.content, (inline) => inlineHtml(inline, writer)) || '&nbsp;';
    return words + (parts[i + 1]?.type === 'paragraph' ? '<br>' : '');
  };
  const items = list.content.map((item) => `<li>${item.content.map(html).join('')}</li>`).join('');
  return `<${tag} style="margin:${margin};padding-${writer.start}:24px">${items}</${tag}>`;
}

function blockHtml(block: RichBlock, writer: Writer, last: boolean): string {
  const margin = last ? '0' : '0 0 12px';
  if (block.type !== 'paragraph') return listHtml(block, writer, margin);
  const html = paragraph(block.content, (inline) => inlineHtml(inline, writer)) || '&nbsp;';
  return `<p style="margin:${margin}">${html}</p>`;
}

function blockText(block: RichBlock, writer: Writer, indent = ''): string {
  if (block.type === 'paragraph')
    return paragraph(block.content, (inline) => inlineText(inline, writer));
  return block.content
    .map((item, i) => {
      const bullet = block.type === 'bulletList' ? '-' : `${i + 1}.`;
      const inner = `${indent}${' '.repeat(bullet.length + 1)}`;
      const parts = item.content.map((part, at) =>
        part.type === 'paragraph'
          ? `${at === 0 ? '' : inner}${blockText(part, writer)}`
          : blockText(part, writer, inner),
      );
      return `${indent}${bullet} ${parts.join('\n')}`;
    })
    .join('\n');
}

export const text = defineBlock({
  kind: 'text',
  name: 'Text',
  description: 'Paragraphs and lists, with merge tags.',
  icon: 'M4 6h16 M4 10h16 M4 14h16 M4 18h9',
  schema,
  make: (id) => ({
    kind: 'text' as const,
    id,
    text: {
      type: 'doc' as const,
      content: [
        { type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'Write here.' }] },
      ],
    },
  }),
  fields: [
    { control: 'rich', path: 'text', label: 'Text', inPlace: true },
    alignField('left'),
    {
      control: 'number',
      path: 'size',
      label: 'Text size',
      part: 'looks',
      placeholder: 'House style',
      optional: true,
      least: 10,
      most: 40,
      unit: 'px',
    },
    ...SPACE,
    TEXT_COLOUR,
  ],
  label: (block) => richGist(block.text) || 'Empty text',
  textLooks: ({ size, colour, align, padding }, style) => ({
    font: style.body_font,
    size: size ?? style.text_size,
    lineHeight: 1.5,
    colour: colour ?? style.ink,
    align: align ?? 'left',
    padding: { top: 8, bottom: 8, ...padding },
  }),
  mjml(block, writer) {
    const { style } = writer;
    const { content } = block.text;
    const html = content.map((b, i) => blockHtml(b, writer, i === content.length - 1)).join('');
    const size = block.size ?? style.text_size;
    return `<mj-text padding="${writer.padding(block.padding)}" align="${block.align ?? writer.start}" font-size="${size}px" color="${escapeHtml(block.colour ?? style.ink)}">${html}</mj-text>`;
  },
  text: (block, writer) => block.text.content.map((b) => blockText(b, writer)).join('\n\n'),
});
