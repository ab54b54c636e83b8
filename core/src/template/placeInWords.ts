import { fieldsAt } from '../blocks/fields';
import { kindOf } from './kinds';
import { documentLabel } from './nodeNames';
import type { TemplateNode } from './schema';

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;

/** What every node can have beside the fields of its kind. */
const OF_NODES: Readonly<Record<string, string>> = {
  when: 'condition',
  loop: 'loop',
  name: 'name',
};

/** How a tag that names nothing is written. */
const UNSAID = /‹(undefined|null)?›/;

/** What a node of a document that was not read yet is called, where that can be told; columns go by their section. */
function nameOf(value: unknown): string | null {
  if (!isRecord(value) || typeof value['kind'] !== 'string' || value['kind'] === 'column')
    return null;
  try {
    const label: unknown = kindOf(value as { kind: string }).label(value as never);
    return typeof label === 'string' && !UNSAID.test(label) ? label : null;
  } catch {
    // It is of no kind that is known, or lacks what it is called by: what it stands in is named.
    return null;
  }
}

/**
 * Says where a path of a template’s document leads as whoever writes the template would:
 * `sections.0.columns.1.blocks.3.when` is “Your seeds”, condition. The document need not be one that can be read.
 * Empty where the path leads to nothing that has a name.
 */
export function placeInWords(document: unknown, path: string): string {
  const steps = path.split('.');
  if (steps[0] === 'envelope') return documentLabel(steps.slice(1).join('.'));
  if (steps[0] === 'style') return documentLabel('style');
  let value: unknown = document;
  let found: { node: unknown; name: string; rest: string[] } | null = null;
  steps.forEach((step, i) => {
    value = isRecord(value) && Object.hasOwn(value, step) ? value[step] : undefined;
    const name = nameOf(value);
    if (name !== null) found = { node: value, name, rest: steps.slice(i + 1) };
  });
  if (!found) return '';
  const { node, name, rest }: { node: unknown; name: string; rest: string[] } = found;
  const inside = rest.join('.');
  const fields = fieldsAt(node, kindOf(node as TemplateNode).fields);
  const field = fields.findLast((one) => inside === one.path || inside.startsWith(`${one.path}.`));
  const what = field?.field.label.toLowerCase() ?? OF_NODES[rest[0] ?? ''];
  return what === undefined ? `“${name}”` : `“${name}”, ${what}`;
}
