import { parseRunning } from '../formula';
import type { Inline, RichText } from './richText';

/** Running text as inlines: words and tags. What does not parse stays as words. */
export function fromRunning(text: string): Inline[] {
  const parsed = parseRunning(text);
  if (!parsed.ok) return text ? [{ type: 'text', text }] : [];
  return parsed.value.map((segment): Inline =>
    segment.type === 'words'
      ? { type: 'text', text: segment.text }
      : { type: 'tag', attrs: { formula: segment.source } },
  );
}

/** Inlines as running text; marks are dropped, a line break becomes a space. */
export function toRunning(inlines: readonly Inline[]): string {
  return inlines
    .map((inline) => {
      if (inline.type === 'text') return inline.text;
      return inline.type === 'tag' ? `{{ ${inline.attrs.formula} }}` : ' ';
    })
    .join('');
}

/** A rich text of plain paragraphs, each running text. */
export function richText(...paragraphs: string[]): RichText {
  return {
    type: 'doc',
    content: paragraphs.map((text) => {
      const content = fromRunning(text);
      return content.length > 0 ? { type: 'paragraph', content } : { type: 'paragraph' };
    }),
  };
}
