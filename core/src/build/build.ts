import mjml2html from 'mjml';
import type { Template } from '../template/schema';
import { assemble, Formulas } from './assemble';
import { directionOf } from './direction';
import { Placeholders } from './placeholders';
import { documentMjml, documentText, writerFor, type Build } from './mjml';
import { PROGRAM_VERSION, type Program } from './program';
import { headerWords, type BuildFinding } from './writer';

export interface Built {
  program: Program;
  findings: BuildFinding[];
}

/** Takes out indentation that MJML writes for readers; it means nothing in HTML. */
function tighten(html: string): string {
  return html.replace(/\n\s*/g, '\n').replace(/>\n(?=<\/?(?:table|tbody|tr|td|div)\b)/g, '>');
}

/** Lines of a mail may have 998 characters (RFC 5322, 2.1.1); what fills itself takes some of them. */
const LINE = 150;

/** Breaks long lines before attributes, where white space means nothing. */
function breakLines(html: string): string {
  let last = 0;
  return html.replace(/\n| (?=[a-z-]+=")/g, (space, at: number) => {
    if (space !== '\n' && at - last < LINE) return space;
    last = at;
    return '\n';
  });
}

/**
 * Builds a template into a program. MJML makes the HTML once; what is written wrongly in the
 * template comes back as findings and stays out of the program, so that building never fails for
 * what a designer can do.
 */
export async function build(template: Template): Promise<Built> {
  const build: Build = {
    style: template.style,
    direction: directionOf(template.language),
    placeholders: new Placeholders(),
    findings: [],
  };
  const formulas = new Formulas();
  const source = documentMjml(template, build);
  const { html } = await mjml2html(source, { validationLevel: 'skip', keepComments: true });
  const envelope = writerFor(build, '');
  const ops = (text: string) => assemble(text, build.placeholders, formulas);
  const { from_name, from_email, subject, preview_text } = template.envelope;
  const program: Program = {
    version: PROGRAM_VERSION,
    formulas: formulas.sources,
    fromName: ops(envelope.running(from_name, 'header', 'from_name')),
    fromEmail: headerWords(from_email),
    subject: ops(envelope.running(subject, 'header', 'subject')),
    preview: ops(envelope.running(preview_text, 'header', 'preview_text')),
    html: ops(breakLines(tighten(html))),
    text: ops(documentText(template, build)),
  };
  return { program, findings: build.findings };
}
