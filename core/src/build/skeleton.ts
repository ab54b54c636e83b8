import type { Template } from '../template/schema';
import { documentMjml, type Build } from './mjml';

/**
 * What MJML makes of a section: HTML in which every word of the designer's, and everything that fills itself, is a
 * placeholder. It stays the same whatever is written in the section.
 */
export interface SectionSkeleton {
  html: string;
  /** The widths of its columns: the class of each, and the rule that the head of the document says of it. */
  widths: readonly (readonly [name: string, rule: string])[];
}

/** The document round its sections: HTML before and after them. */
export interface FrameSkeleton {
  before: string;
  after: string;
}

/** A document's sections, in their order, and what stands round them. */
export interface Skeletons {
  sections: readonly SectionSkeleton[];
  frame: FrameSkeleton;
}

/** Stands between sections while MJML is run; taken out of designers' words like other private characters. */
const MARK = '\uE002';
const mark = `<mj-raw>${MARK}</mj-raw>`;
/** Keeps the head's rules for columns in their place, though no section may be new. */
const LAST = '<mj-section><mj-column width="100%"></mj-column></mj-section>';

const COLUMN = /mj-column-p(?:er|x)-[\d-]*\d/g;
const RULE = /\.(mj-column-p(?:er|x)-[\d-]*\d) (\{[^}]*\})/g;

/** A document as MJML that has no sections yet. */
export function frameMjml(template: Omit<Template, 'sections'>, build: Build): string {
  return documentMjml(template, build, `${mark}${LAST}`);
}

/** The same with sections, given as MJML, which can be told apart when it is HTML. */
export function withSections(frame: string, sections: readonly string[]): string {
  return frame.replace(mark, () => mark + sections.map((section) => section + mark).join(''));
}

/** The skeletons in the HTML that MJML made of such a document. */
export function skeletonsIn(html: string): Skeletons {
  const parts = html.split(MARK);
  const [before = ''] = parts;
  const rules = new Map([...before.matchAll(RULE)].map(([, name = '', rule = '']) => [name, rule]));
  const sections = parts.slice(1, -1).map((own) => {
    const names = [...new Set(own.match(COLUMN) ?? [])];
    return { html: own, widths: names.map((name) => [name, rules.get(name) ?? ''] as const) };
  });
  return { sections, frame: { before, after: endOf(parts.at(-1) ?? '') } };
}

/** What closes the document, behind the last section, which is none of the template. */
function endOf(html: string): string {
  return html
    .slice(html.lastIndexOf('<!--[if mso | IE]></td></tr></table><![endif]-->'))
    .replace(/^.*?-->/s, '');
}

/** The head's rules for columns, of which a document without sections has none. */
const RULES =
  /[^\S\n]*<style type="text\/css">\s*@media[^{]*\{(?:\s*\.mj-column-p[^\n]*)+\s*\}\s*<\/style>\s*<style media="[^"]*">[^<]*<\/style>\n?/;

/** The head of a document with the rules for the widths of columns that it has, in their order. */
export function withRules(before: string, sections: readonly SectionSkeleton[]): string {
  if (sections.length === 0) return before.replace(RULES, '');
  const rules = new Map(sections.flatMap(({ widths }) => widths));
  const lines = (prefix: string) =>
    [...rules].map(([name, rule]) => `${prefix}.${name} ${rule}`).join('\n');
  return before
    .replace(/(?:^\s*\.mj-column-p[^\n]*\n)+/m, `${lines('')}\n`)
    .replace(/(?:^\s*\.moz-text-html[^\n]*\n)+/m, `${lines('.moz-text-html ')}\n`);
}
