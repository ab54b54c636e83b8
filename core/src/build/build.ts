import type { Template } from '../template/schema';
import { addressParts, assemble, Formulas } from './assemble';
import { directionOf } from './direction';
import { Placeholders } from './placeholders';
import { writerFor, type Build } from './mjml';
import { piecesOf } from './pieces';
import { joined, PROGRAM_VERSION, type Program } from './program';
import { headerWords, type BuildFinding } from './writer';

export interface BuildOptions {
  /** Addresses that are the same for all stay operations, so that a tally sees them. */
  keepsAddresses?: boolean;
}
export interface Built {
  program: Program;
  findings: BuildFinding[];
}

/**
 * Builds a template into a program. MJML makes the HTML of each section once; sections that are as they
 * were are kept. What is written wrongly in the template comes back as findings and stays out of the
 * program, so that building never fails for what a designer can do.
 */
export async function build(
  template: Template,
  { keepsAddresses = false }: BuildOptions = {},
): Promise<Built> {
  const build: Build = {
    style: template.style,
    direction: directionOf(template.language),
    placeholders: new Placeholders(),
    findings: [],
  };
  const formulas = new Formulas();
  const { pieces, frame } = await piecesOf(template, build);
  const envelope = writerFor(build, '');
  const tags = (template.link_tags ?? []).flatMap(({ parameter, value }, i) => {
    const parts = envelope.urlParts(value, `link_tags.${i}.value`);
    return parts ? [{ parameter, parts: addressParts(parts, formulas) }] : [];
  });
  const ops = (text: string, placeholders = build.placeholders) =>
    assemble(text, placeholders, formulas, keepsAddresses || tags.length > 0);
  const { from_name, from_email, subject, preview_text } = template.envelope;
  const onlyIf = template.envelope.only_if;
  const program: Program = {
    version: PROGRAM_VERSION,
    formulas: formulas.sources,
    ...(onlyIf !== undefined && { onlyIf: formulas.index(onlyIf) }),
    ...(build.direction === 'rtl' && { isolates: true as const }),
    ...(tags.length > 0 && { linkTags: tags }),
    fromName: ops(envelope.running(from_name, 'header', 'from_name')),
    fromEmail: headerWords(from_email),
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
