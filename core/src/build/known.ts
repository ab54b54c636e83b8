import type { Template } from '../template/schema';
import { addressParts, assemble, Formulas } from './assemble';
import { writerFor, type Build } from './mjml';
import { begin, buildOf, Kept, type Pieces } from './pieces';
import { joined, PROGRAM_VERSION, type Program } from './program';
import type { Skeletons } from './skeleton';
import { headerWords, type BuildFinding } from './writer';

export { Kept };
export interface BuildOptions {
  /** Addresses that are the same for all stay operations, so that a tally sees them. */
  keepsAddresses?: boolean;
}
export interface Built {
  program: Program;
  findings: BuildFinding[];
}

/** A build that may need MJML for a part of the template. */
export interface Building {
  /** The template with only what MJML has to be run for; null where everything is known. */
  asks: Template | null;
  /** Finishes it, with the skeletons of what was asked for. */
  finish(got?: Skeletons): Built;
}

/**
 * Builds a template without MJML, which needs Node: what MJML makes of it is known from an earlier build, or is asked
 * for. Where only words, formulas and addresses are new, nothing is asked for.
 */
export function building(
  template: Template,
  kept: Kept,
  { keepsAddresses = false }: BuildOptions = {},
): Building {
  const build = buildOf(template);
  const begun = begin(template, build, kept);
  return {
    asks: begun.asks,
    finish: (got) => programOf(template, build, begun.finish(got), keepsAddresses),
  };
}

/** The program of a template whose pieces are made. */
export function programOf(
  template: Template,
  build: Build,
  { pieces, frame }: Pieces,
  keepsAddresses: boolean,
): Built {
  const formulas = new Formulas();
  const envelope = writerFor(build, '');
  const tags = (template.link_tags ?? []).flatMap(({ parameter, value }, i) => {
    const parts = envelope.urlParts(value, `link_tags.${i}.value`);
    return parts ? [{ parameter, parts: addressParts(parts, formulas) }] : [];
  });
  const ops = (text: string, placeholders = build.placeholders) =>
    assemble(text, placeholders, formulas, keepsAddresses || tags.length > 0);
  const { from_name, from_email, to_name, subject, preview_text } = template.envelope;
  const onlyIf = template.envelope.only_if;
  const program: Program = {
    version: PROGRAM_VERSION,
    formulas: formulas.sources,
    ...(onlyIf !== undefined && { onlyIf: formulas.index(onlyIf) }),
    ...(build.direction === 'rtl' && { isolates: true as const }),
    ...(tags.length > 0 && { linkTags: tags }),
    fromName: ops(envelope.running(from_name, 'header', 'from_name')),
    fromEmail: headerWords(from_email),
    ...(to_name && { toName: ops(envelope.running(to_name, 'header', 'to_name')) }),
    subject: ops(envelope.running(subject, 'header', 'subject')),
    preview: ops(envelope.running(preview_text, 'header', 'preview_text')),
    html: joined([
      ...ops(frame.before),
      ...pieces.flatMap(({ html, placeholders }) => ops(html, placeholders)),
      ...ops(frame.after),
    ]),
    text: joined(pieces.flatMap(({ text, placeholders }) => ops(text, placeholders))),
  };
  return { program, findings: [...build.findings, ...pieces.flatMap(({ findings }) => findings)] };
}
