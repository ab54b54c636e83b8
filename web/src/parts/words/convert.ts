import type { JSONContent } from '@tiptap/core';
import type { Inline, Mark, RichBlock, RichText } from '@carafe/core/template';

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
      return [{ type: 'text', text: inline.text, ...marksOf(inline) }];
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

function paragraph(content: JSONContent): { type: 'paragraph'; content?: Inline[] } {
  const inlines = inlinesOf(content.content);
  return inlines.length > 0 ? { type: 'paragraph', content: inlines } : { type: 'paragraph' };
}

/** An editor's document as a template keeps it: what a template does not know is left out. */
export function toRichText(document: JSONContent): RichText {
  const blocks = (document.content ?? []).flatMap((block): RichBlock[] => {
    if (block.type === 'paragraph') return [paragraph(block)];
    if (block.type !== 'bulletList' && block.type !== 'orderedList') return [];
    const content = (block.content ?? []).map((item) => ({
      type: 'listItem' as const,
      content: (item.content ?? []).filter((c) => c.type === 'paragraph').map(paragraph),
    }));
    return [{ type: block.type, content }];
  });
  return { type: 'doc', content: blocks };
}
