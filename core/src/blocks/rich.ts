import type { Writer } from '../build/writer';
import type { Inline, RichBlock, RichList, RichText } from '../template/richText';

const WRAP = { bold: 'strong', italic: 'em', underline: 'u' } as const;

function inlineHtml(inline: Inline, writer: Writer, path: string): string {
  if (inline.type === 'hardBreak') return '<br>';
  const words =
    inline.type === 'text'
      ? writer.words(inline.text, 'html')
      : writer.value(inline.attrs.formula, 'html', path);
  return (inline.marks ?? []).reduce((html, mark) => {
    if (mark.type === 'link')
      return writer.link(mark.attrs.href, html, path, `color:${writer.style.primary};`);
    const tag = WRAP[mark.type];
    return `<${tag}>${html}</${tag}>`;
  }, words);
}

function inlineText(inline: Inline, writer: Writer, path: string): string {
  if (inline.type === 'hardBreak') return '\n';
  const words =
    inline.type === 'text'
      ? writer.words(inline.text, 'plain')
      : writer.value(inline.attrs.formula, 'plain', path);
  const link = inline.marks?.find((mark) => mark.type === 'link');
  if (!link) return words;
  const { href } = link.attrs;
  const address = ` (${writer.url(href, path, 'link', 'plain')})`;
  return words + writer.ifAddress(href, path, 'link', address);
}

function paragraph(content: Inline[] | undefined, write: (inline: Inline) => string): string {
  return (content ?? []).map(write).join('');
}

function listHtml(list: RichList, writer: Writer, path: string, margin: string): string {
  const tag = list.type === 'bulletList' ? 'ul' : 'ol';
  const html = (part: RichBlock, i: number, parts: RichBlock[]) => {
    if (part.type !== 'paragraph') return listHtml(part, writer, path, '0');
    const words = paragraph(part.content, (inline) => inlineHtml(inline, writer, path)) || '&nbsp;';
    return words + (parts[i + 1]?.type === 'paragraph' ? '<br>' : '');
  };
  const items = list.content.map((item) => `<li>${item.content.map(html).join('')}</li>`).join('');
  return `<${tag} style="margin:${margin};padding-${writer.start}:24px">${items}</${tag}>`;
}

function blockHtml(block: RichBlock, writer: Writer, path: string, last: boolean): string {
  const margin = last ? '0' : '0 0 12px';
  if (block.type !== 'paragraph') return listHtml(block, writer, path, margin);
  const html = paragraph(block.content, (inline) => inlineHtml(inline, writer, path)) || '&nbsp;';
  return `<p style="margin:${margin}">${html}</p>`;
}

function blockText(block: RichBlock, writer: Writer, path: string, indent = ''): string {
  if (block.type === 'paragraph')
    return paragraph(block.content, (inline) => inlineText(inline, writer, path));
  return block.content
    .map((item, i) => {
      const bullet = block.type === 'bulletList' ? '-' : `${i + 1}.`;
      const inner = `${indent}${' '.repeat(bullet.length + 1)}`;
      const parts = item.content.map((part, at) =>
        part.type === 'paragraph'
          ? `${at === 0 ? '' : inner}${blockText(part, writer, path)}`
          : blockText(part, writer, path, inner),
      );
      return `${indent}${bullet} ${parts.join('\n')}`;
    })
    .join('\n');
}

/** A text of paragraphs and lists as HTML; `path` is where it stands in its node. */
export function richHtml({ content }: RichText, writer: Writer, path: string): string {
  return writer.hidden(() =>
    content.map((b, i) => blockHtml(b, writer, path, i === content.length - 1)).join(''),
  );
}

/** The same as plain text. */
export function richPlain({ content }: RichText, writer: Writer, path: string): string {
  return content.map((b) => blockText(b, writer, path)).join('\n\n');
}
