import type { JSONContent } from '@tiptap/core';
import {
  MAX_LIST_DEPTH,
  MAX_WORDS,
  type Inline,
  type ListItem,
  type Mark,
  type Paragraph,
  type RichBlock,
  type RichList,
  type RichText,
} from '@carafe/core/template';

function marksOf(content: JSONContent): { marks?: Mark[] } {
  const marks = (content.marks ?? []).flatMap((mark): Mark[] => {
    if (mark.type === 'bold' || mark.type === 'italic' || mark.type === 'underline')
      return [{ type: mark.type }];
    return mark.type === 'link'
      ? [{ type: 'link', attrs: { href: String(mark.attrs?.['href'] ?? '') } }]
      : [];
  });
  return marks.length > 0 ? { marks } : {};
}

/** The inlines of an editor's paragraph. */
export function inlinesOf(content: JSONContent[] = []): Inline[] {
  return content.flatMap((inline): Inline[] => {
    if (inline.type === 'text' && inline.text)
      return pieces(inline.text).map((text) => ({ type: 'text', text, ...marksOf(inline) }));
    if (inline.type === 'tag')
      return [
        {
          type: 'tag',
          attrs: { formula: String(inline.attrs?.['formula'] ?? '') },
          ...marksOf(inline),
        },
      ];
    return inline.type === 'hardBreak' ? [{ type: 'hardBreak' }] : [];
  });
}

/** Words too long for one piece, in several; none is cut in the middle of a letter. */
function pieces(text: string): string[] {
  if (text.length <= MAX_WORDS) return [text];
  const found: string[] = [];
  for (let at = 0; at < text.length;) {
    let end = Math.min(at + MAX_WORDS, text.length);
    if (end < text.length && /[\uD800-\uDBFF]/.test(text.charAt(end - 1))) end--;
    found.push(text.slice(at, end));
    at = end;
  }
  return found;
}

function paragraph(content: JSONContent): Paragraph {
  const inlines = inlinesOf(content.content);
  return inlines.length > 0 ? { type: 'paragraph', content: inlines } : { type: 'paragraph' };
}

const isList = ({ type }: JSONContent) => type === 'bulletList' || type === 'orderedList';

/** What stands in an item: its words, and lists in it; lists too deep stand on the deepest level there is. */
function itemContent(item: JSONContent, depth: number): ListItem['content'] {
  return (item.content ?? []).flatMap((part): ListItem['content'] => {
    if (part.type === 'paragraph') return [paragraph(part)];
    if (!isList(part)) return [];
    if (depth < MAX_LIST_DEPTH) return [list(part, depth + 1)];
    return (part.content ?? []).flatMap((inner) => itemContent(inner, depth));
  });
}

function list(block: JSONContent, depth: number): RichList {
  return {
    type: block.type === 'orderedList' ? 'orderedList' : 'bulletList',
    content: (block.content ?? []).map((item) => ({
      type: 'listItem',
      content: itemContent(item, depth),
    })),
  };
}

/** An editor's document as a template keeps it: what a template does not know is left out. */
export function toRichText(document: JSONContent): RichText {
  const blocks = (document.content ?? []).flatMap((block): RichBlock[] => {
    if (block.type === 'paragraph') return [paragraph(block)];
    return isList(block) ? [list(block, 1)] : [];
  });
  return { type: 'doc', content: blocks };
}
