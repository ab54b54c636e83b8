import { Node } from '@tiptap/core';
import StarterKit from '@tiptap/starter-kit';
import { LinkMark, TagNode } from './tagNode';

const PLAIN = {
  blockquote: false,
  code: false,
  codeBlock: false,
  heading: false,
  horizontalRule: false,
  strike: false,
  link: false,
  // Undoing is the template's own: one history for words and everything else.
  undoRedo: false,
  trailingNode: false,
} as const;

const OneLine = Node.create({ name: 'doc', topNode: true, content: 'paragraph' });
/** What a text of paragraphs and lists can hold. */
export const RICH = [StarterKit.configure(PLAIN), LinkMark, TagNode];
/** What one line of words can hold. */
export const LINE = [
  StarterKit.configure({
    ...PLAIN,
    document: false,
    bold: false,
    italic: false,
    underline: false,
    bulletList: false,
    orderedList: false,
    listItem: false,
    listKeymap: false,
    hardBreak: false,
  }),
  OneLine,
  TagNode,
];
