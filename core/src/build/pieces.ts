import mjml2html from 'mjml';
import type { Section, Template } from '../template/schema';
import { directionOf } from './direction';
import { documentMjml, sectionMjml, sectionText, type Build } from './mjml';
import { Placeholders } from './placeholders';
import { tidyHtml } from './tidy';
import type { BuildFinding } from './writer';

/** A section made ready by itself: the same wherever it stands. */
export interface Piece {
  html: string;
  text: string;
  placeholders: Placeholders;
  findings: readonly BuildFinding[];
  /** The widths of its columns, as the classes that the head of the document says. */
  widths: readonly string[];
}

/** The document without its sections: HTML before and after them. */
export interface Frame {
  before: string;
  after: string;
}

/** So many sections are kept, the latest: some large templates that are worked on. */
const MOST_KEPT = 600;
const kept = new Map<string, Piece>();

function remembered(key: string): Piece | undefined {
  const piece = kept.get(key);
  if (!piece) return undefined;
  kept.delete(key);
  kept.set(key, piece);
  return piece;
}

function remember(key: string, piece: Piece): void {
  kept.set(key, piece);
  const [oldest] = kept.keys();
  if (kept.size > MOST_KEPT && oldest !== undefined) kept.delete(oldest);
}

/** Stands between sections while MJML is run; taken out of designers' words like other private characters. */
const MARK = '\uE002';
const mark = `<mj-raw>${MARK}</mj-raw>`;
/** Keeps the head's rules for columns in their place, though no section may be new. */
const LAST = '<mj-section><mj-column width="100%"></mj-column></mj-section>';

const COLUMN = /mj-column-p(?:er|x)-[\d-]*\d/g;
const RULE = /\.(mj-column-p(?:er|x)-[\d-]*\d) (\{[^}]*\})/g;
/** What MJML says of the widths of columns, by class. */
const rules = new Map<string, string>();

/** The head's rules for columns, written for the widths that a document has, in their order. */
function withRules(before: string, widths: readonly string[]): string {
  for (const [, name = '', rule = ''] of before.matchAll(RULE)) rules.set(name, rule);
  const lines = (prefix: string) =>
    widths.map((name) => `${prefix}.${name} ${rules.get(name) ?? ''}`).join('\n');
  return before
    .replace(/(?:^\s*\.mj-column-p[^\n]*\n)+/m, `${lines('')}\n`)
    .replace(/(?:^\s*\.moz-text-html[^\n]*\n)+/m, `${lines('.moz-text-html ')}\n`);
}

/**
 * The pieces of a template and what stands round them. MJML is run once, for the sections that are not
 * known as they are; the others are kept from before.
 */
export async function piecesOf(
  template: Template,
  build: Build,
): Promise<{ pieces: Piece[]; frame: Frame }> {
  const { style, language } = template;
  const direction = directionOf(language);
  const common = `${direction} ${JSON.stringify(style)}`;
  const keys = template.sections.map((section) => `${common} ${JSON.stringify(section)}`);
  const known = keys.map(remembered);
  const fresh = template.sections.flatMap((section, i) => (known[i] ? [] : [{ section, i }]));
  const made = fresh.map(({ section, i }) => ({ i, ...written(section, build) }));
  const body = made.map(({ mjml }) => mjml + mark).join('');
  const isEmpty = keys.length === 0;
  const source = documentMjml(template, build, `${mark}${body}${isEmpty ? '' : LAST}`);
  const { html } = await mjml2html(source, { validationLevel: 'skip', keepComments: true });
  const parts = html.split(MARK);
  made.forEach(({ i, mjml: _, ...piece }, at) => {
    const own = parts[at + 1] ?? '';
    const widths = [...new Set(own.match(COLUMN) ?? [])];
    const one: Piece = { ...piece, html: tidyHtml(own), widths };
    known[i] = one;
    remember(keys[i] ?? '', one);
  });
  const pieces = known.filter((piece) => piece !== undefined);
  const widths = [...new Set(pieces.flatMap((piece) => piece.widths))];
  const [before = ''] = parts;
  return {
    pieces,
    frame: {
      before: tidyHtml(withRules(before, widths)),
      after: tidyHtml(isEmpty ? (parts.at(-1) ?? '') : endOf(parts.at(-1) ?? '')),
    },
  };
}

/** What closes the document, behind the last section, which is none of the template. */
function endOf(html: string): string {
  return html
    .slice(html.lastIndexOf('<!--[if mso | IE]></td></tr></table><![endif]-->'))
    .replace(/^.*?-->/s, '');
}

function written(section: Section, { style, direction }: Build) {
  const placeholders = new Placeholders();
  const findings: BuildFinding[] = [];
  const own: Build = { style, direction, placeholders, findings };
  const mjml = sectionMjml(section, own);
  return { mjml, text: sectionText(section, own), placeholders, findings };
}
