import { freeze } from 'immer';
import { z } from 'zod';
import { plainIssues } from '../errors';
import { walkNodes } from './nodes';
import { Template, TEMPLATE_VERSION } from './schema';

export interface TemplateProblem {
  /** Where in the document: `sections.0.columns.1.blocks.3.text`; empty for the whole. */
  path: string;
  message: string;
}
export type ReadTemplate =
  { ok: true; template: Template } | { ok: false; problems: TemplateProblem[] };

const MAX_PROBLEMS = 20;
/** How deep a document may nest before it is looked at further. */
const MAX_NESTING = 60;

function refuse(message: string, path = ''): ReadTemplate {
  return { ok: false, problems: [{ path, message }] };
}

function tooDeep(value: unknown, left = MAX_NESTING): boolean {
  if (typeof value !== 'object' || value === null) return false;
  return left === 0 || Object.values(value).some((inside) => tooDeep(inside, left - 1));
}

/** Checks a document that claims to be a template, and says in plain words what it is not. */
export function readTemplate(document: unknown): ReadTemplate {
  if (typeof document !== 'object' || document === null || Array.isArray(document))
    return refuse('A template is a JSON object.');
  const { format, version } = document as Record<string, unknown>;
  if (format !== 'carafe-template')
    return refuse('This is not a Carafe template: “format” must be "carafe-template".', 'format');
  if (typeof version === 'number' && version > TEMPLATE_VERSION)
    return refuse(
      `This template is of version ${version}; this Carafe reads versions up to ${TEMPLATE_VERSION}. Open it with a newer Carafe.`,
      'version',
    );
  if (tooDeep(document))
    return refuse(`A template can be nested at most ${MAX_NESTING} levels deep.`);
  const parsed = Template.safeParse(document);
  if (!parsed.success) {
    return {
      ok: false,
      problems: plainIssues(parsed.error.issues).slice(0, MAX_PROBLEMS),
    };
  }
  const twice = doubledId(parsed.data);
  if (twice) return refuse(`Two nodes have the id “${twice}”; each id must be unique.`);
  // What was read does not change any more: what is found in it once holds.
  return { ok: true, template: freeze(parsed.data, true) };
}

/** Reads a template from JSON text. */
export function readTemplateText(text: string): ReadTemplate {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return refuse('This is not JSON, or it is incomplete.');
  }
  return readTemplate(document);
}

function doubledId(template: Template): string | undefined {
  const seen = new Set<string>();
  let twice: string | undefined;
  walkNodes(template, ({ node }) => {
    if (seen.has(node.id)) twice ??= node.id;
    seen.add(node.id);
  });
  return twice;
}

/** The JSON Schema (2020-12) of a template, as it is published. */
export function templateJsonSchema(): object {
  return z.toJSONSchema(Template, { target: 'draft-2020-12' });
}
