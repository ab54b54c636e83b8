import { getSchema, type JSONContent } from '@tiptap/core';
import { DOMParser as DocumentParser } from '@tiptap/pm/model';
import { richText, type RichText } from '@carafe/core/template';
import { toRichText } from './convert';
import { RICH } from './extensions';
import { cleanPasted } from './paste';

/** What was copied elsewhere as the text of a block, and what of it was left out; null where there are no words. */
export function pastedText(
  html: string,
  text: string,
): { text: RichText; dropped: string[] } | null {
  if (text.trim() === '' && html.trim() === '') return null;
  if (html.trim() === '')
    return { text: richText(...text.trim().split(/\n\s*\n|\r?\n/)), dropped: [] };
  const { html: clean, dropped } = cleanPasted(html);
  const page = new DOMParser().parseFromString(clean, 'text/html');
  const read = DocumentParser.fromSchema(getSchema(RICH)).parse(page.body);
  const words = toRichText(read.toJSON() as JSONContent);
  return words.content.length === 0 ? null : { text: words, dropped };
}
