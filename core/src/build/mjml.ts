import { BLOCKS } from '../blocks';
import type { BlockDefinition, WriteChildren } from '../blocks/define';
import { escapeHtml } from '../render/escape';
import { childLists } from '../template/nodes';
import { columnWidths } from '../template/structure';
import type { HouseStyle } from '../template/parts';
import type { Block, Column, Section, Template, TemplateNode } from '../template/schema';
import type { Grid, Placeholders } from './placeholders';
import { screenStyles } from './screens';
import type { Direction } from './direction';
import { Writer, type BuildFinding } from './writer';

/** What building a document needs at every node. */
export interface Build {
  style: HouseStyle;
  direction: Direction;
  placeholders: Placeholders;
  findings: BuildFinding[];
}

export function writerFor(build: Build, node: string, width = build.style.width): Writer {
  const { style, placeholders, findings, direction } = build;
  return new Writer(style, width, placeholders, findings, node, direction);
}

type AnyBlock = Omit<BlockDefinition<string, never>, 'mjml' | 'text'> & {
  mjml(block: Block, writer: Writer, children: WriteChildren): string;
  text(block: Block, writer: Writer, children: WriteChildren): string;
};

function definitionOf(block: Block): AnyBlock {
  return BLOCKS[block.kind] as unknown as AnyBlock;
}

/** What stands at a child slot of a block, written one after the other. */
function childWriter(block: Block, write: (child: Block) => string): WriteChildren {
  return (at) =>
    childLists(block)
      .filter(({ slot }) => slot.at === at)
      .flatMap(({ list }) => list as Block[])
      .map(write)
      .join('');
}

/**
 * A node with its bounds, its loop, its condition and its else around it. `wrap` keeps a placeholder where
 * it stands: MJML leaves raw pieces alone, and plain text needs none.
 */
export function around<N extends TemplateNode>(
  node: N,
  build: Build,
  write: (node: N, writer: Writer) => string,
  wrap: (placeholder: string) => string,
  width: number,
  grid?: Grid,
): string {
  const writer = writerFor(build, node.id, width);
  const body = write(node, writer);
  const looped = node.loop
    ? wrap(writer.openLoop(node.loop, 'loop', grid)) + body + wrap(writer.end())
    : body;
  const bounded = wrap(writer.openNode()) + looped + wrap(writer.end());
  if (node.when === undefined) return bounded;
  const other = node.else
    ? wrap(writer.otherwise()) + around(node.else as N, build, write, wrap, width, grid)
    : '';
  return wrap(writer.openWhen(node.when, 'when')) + bounded + other + wrap(writer.end());
}

const raw = (placeholder: string) => `<mj-raw>${placeholder}</mj-raw>`;

function blockMjml(block: Block, build: Build, width: number): string {
  const write = (b: Block, writer: Writer) =>
    definitionOf(b).mjml(
      b,
      writer,
      childWriter(b, (child) => blockMjml(child, build, width)),
    );
  return around<Block>(block, build, write, raw, width);
}

function columnMjml(column: Column, build: Build, percent: number): string {
  const width = Math.floor((build.style.width * percent) / 100);
  const write = (c: Column) =>
    `<mj-column width="${percent}%" direction="${build.direction}"${c.background ? ` background-color="${c.background}"` : ''}>${c.blocks.map((b) => blockMjml(b, build, width)).join('')}</mj-column>`;
  // Word's engine, which reads the comments alone, has rows of a table: they wrap as elsewhere.
  const grid: Grid = {
    columns: Math.max(1, Math.floor(100 / percent)),
    open: '',
    close: '<!--[if mso | IE]></tr><tr><![endif]-->',
    blank: '',
  };
  return around(column, build, write, raw, width, grid);
}

/** A section as MJML with placeholders. */
export function sectionMjml(section: Section, build: Build): string {
  const { style } = build;
  // A column that is left alone stands where lines begin.
  const side = build.direction === 'rtl' ? 'right' : 'left';
  const write = (s: Section) => {
    const widths = columnWidths(s.columns);
    const columns = s.columns.map((c, i) => columnMjml(c, build, widths[i] ?? 100));
    const padding = `${s.padding?.top ?? 8}px 0 ${s.padding?.bottom ?? 8}px`;
    // Written the other way round in the other direction: side by side nothing changes, stacked the last is first.
    const isTurned = s.stacking === 'last_first' && columns.length > 1;
    const other = build.direction === 'rtl' ? 'ltr' : 'rtl';
    const inside = isTurned ? columns.reverse().join('') : columns.join('');
    const kept =
      s.stacking === 'beside'
        ? `<mj-group direction="${build.direction}">${inside}</mj-group>`
        : inside;
    return `<mj-section background-color="${s.background ?? style.surface}" padding="${padding}" text-align="${side}" direction="${isTurned ? other : build.direction}">${kept}</mj-section>`;
  };
  return around(section, build, write, raw, style.width);
}

/** What lists of mails show behind the preview text: nothing, so that the body does not run into it. */
const FILLER = '&#847;&zwnj;&nbsp;'.repeat(80);

/** The document as MJML with placeholders, round the MJML of its sections. */
export function documentMjml(
  template: Omit<Template, 'sections'>,
  build: Build,
  sections: string,
): string {
  const { style } = build;
  const envelope = writerFor(build, '');
  const title = envelope.running(template.envelope.subject, 'attribute', 'subject');
  const preview = envelope.running(template.envelope.preview_text, 'attribute', 'preview_text');
  const language = /^[A-Za-z0-9-]+$/.test(template.language) ? template.language : 'en';
  return `<mjml lang="${language}" dir="${build.direction}"><mj-head><mj-title>${title}</mj-title><mj-preview>${preview}${preview === '' ? '' : FILLER}</mj-preview><mj-attributes><mj-all font-family="${escapeHtml(style.body_font)}" /><mj-text line-height="1.5" /></mj-attributes><mj-style>${screenStyles()}</mj-style></mj-head><mj-body width="${style.width}px" background-color="${style.background}">${sections}</mj-body></mjml>`;
}

/** The plain text of a section with placeholders, block after block. */
export function sectionText(section: Section, build: Build): string {
  const plain = (placeholder: string) => placeholder;
  const { width } = build.style;
  const block = (b: Block): string =>
    around<Block>(
      b,
      build,
      (x, writer) => withBreak(definitionOf(x).text(x, writer, childWriter(x, block))),
      plain,
      width,
    );
  const column = (c: Column): string =>
    around<Column>(c, build, (x) => x.blocks.map(block).join(''), plain, width);
  return around<Section>(section, build, (x) => x.columns.map(column).join(''), plain, width);
}

function withBreak(text: string): string {
  return text === '' ? '' : `${text}\n\n`;
}
