import { fieldsAt, valueAt } from '../blocks/fields';
import { isBlock } from '../template/nodes';
import { kindOf } from '../template/kinds';
import type { Inline, RichBlock, RichText } from '../template/richText';
import type { Template } from '../template/schema';
import { positions } from './ask';

/** Stands where a merge tag does. */
export const TAG = '\uFFFC';

/** Words that somebody wrote into a template, merge tags taken out. */
export interface Written {
  /** Empty for the envelope. */
  node: string;
  path: string;
  /** With its merge tags. */
  running: string;
  words: string;
  /** Whether they stand in an HTML block. */
  isHtml: boolean;
}

/** A link that somebody wrote into running text or HTML. */
export interface WrittenLink {
  node: string;
  path: string;
  /** What it leads to, as it was written. */
  href: string;
  /** The words that it stands on. */
  words: string;
}

const TAGS = /\{\{(?:"[^"]*"|[^{}"])*\}\}/g;
/** Running text without its merge tags. */
export const untagged = (running: string): string => running.replace(TAGS, TAG);

/** HTML without what is taken out of it anyway: comments, scripts and styles. */
export const seenHtml = (source: string): string =>
  source
    .replace(/<!--[\s\S]*?-->/g, ' ')
    .replace(/<(script|style|title)\b[\s\S]*?<\/\1\s*>/gi, ' ');

const withoutMarkup = (source: string): string =>
  seenHtml(source)
    .replace(/<\/?[a-z][^<>]*>/gi, ' ')
    .replace(/\s+/g, ' ')
    .trim();

function paragraphs(blocks: readonly RichBlock[]): (readonly Inline[])[] {
  return blocks.flatMap((block) =>
    block.type === 'paragraph'
      ? [block.content ?? []]
      : block.content.flatMap(({ content }) => paragraphs(content)),
  );
}
const wordsOf = (inline: Inline): string =>
  inline.type === 'text'
    ? inline.text
    : inline.type === 'tag'
      ? `{{ ${inline.attrs.formula} }}`
      : ' ';

/** All words of a template, of the envelope first, then in reading order; addresses and formulas are none. */
export function writtenWords({ envelope, ...template }: Template): Written[] {
  const own = (['from_name', 'subject', 'preview_text'] as const).map((path) => ({
    ...{ node: '', path, running: envelope[path], isHtml: false },
  }));
  const inside = positions({ envelope, ...template }).flatMap(({ node }) => {
    // What a section or a column is called stands in no email.
    if (!isBlock(node)) return [];
    return fieldsAt(node, kindOf(node).fields).flatMap(
      ({ field, path }): Omit<Written, 'words'>[] => {
        const value = valueAt(node, path);
        const at = { node: node.id, path, isHtml: false };
        if (field.control === 'rich' && value)
          return paragraphs((value as RichText).content).map((line) => ({
            ...at,
            running: line.map(wordsOf).join(''),
          }));
        if (typeof value !== 'string') return [];
        if (field.control === 'plain') return [{ ...at, running: value }];
        if (field.control !== 'line' || !['text', 'code', 'html'].includes(field.holds)) return [];
        return field.holds === 'html'
          ? [{ ...at, running: withoutMarkup(value), isHtml: true }]
          : [{ ...at, running: value }];
      },
    );
  });
  return [...own, ...inside]
    .map((one) => ({ ...one, words: untagged(one.running) }))
    .filter(({ words }) => words.trim() !== '');
}

const hrefOf = (inline: Inline): string | undefined =>
  inline.marks?.find((mark) => mark.type === 'link')?.attrs.href;

function richLinks(text: RichText, at: { node: string; path: string }): WrittenLink[] {
  return paragraphs(text.content).flatMap((line) => {
    const links: WrittenLink[] = [];
    let before: string | undefined;
    for (const inline of line) {
      const href = hrefOf(inline);
      const last = links.at(-1);
      if (href !== undefined && href === before && last) last.words += wordsOf(inline);
      else if (href !== undefined) links.push({ ...at, href, words: wordsOf(inline) });
      before = href;
    }
    return links;
  });
}

/** The value of an attribute of a tag of HTML; undefined where it has none. */
export function attributeOf(tag: string, name: string): string | undefined {
  const found = new RegExp(`\\s${name}\\s*=\\s*(?:"([^"]*)"|'([^']*)'|([^\\s>]+))`, 'i').exec(tag);
  return found ? (found[1] ?? found[2] ?? found[3]) : undefined;
}

/** The links in running text and in HTML blocks. */
export function writtenLinks(template: Template): WrittenLink[] {
  return positions(template).flatMap(({ node }) =>
    fieldsAt(node, kindOf(node).fields).flatMap(({ field, path }): WrittenLink[] => {
      const value = valueAt(node, path);
      const at = { node: node.id, path };
      if (field.control === 'rich' && value) return richLinks(value as RichText, at);
      if (field.control !== 'line' || field.holds !== 'html' || typeof value !== 'string')
        return [];
      return [...seenHtml(value).matchAll(/(<a\b[^>]*>)([\s\S]*?)<\/a\s*>/gi)].flatMap(
        ([, tag = '', inside = '']) => {
          const href = attributeOf(tag, 'href');
          // An anchor that only has a name is no link.
          return href === undefined ? [] : [{ ...at, href, words: withoutMarkup(inside) }];
        },
      );
    }),
  );
}

/** The pictures that HTML blocks show, as their tags. */
export function rawPictures(template: Template): { node: string; path: string; tag: string }[] {
  return positions(template).flatMap(({ node }) =>
    node.kind === 'html'
      ? [...seenHtml(node.source).matchAll(/<img\b[^>]*>/gi)].map(([tag]) => ({
          ...{ node: node.id, path: 'source', tag },
        }))
      : [],
  );
}
