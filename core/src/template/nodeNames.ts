import { kindOf } from './kinds';
import { walkNodes } from './nodes';
import type { Template, TemplateNode } from './schema';

/** What a property of the document itself is called, by the beginning of its path. */
const OF_DOCUMENT: Readonly<Record<string, string>> = {
  subject: 'Subject',
  preview_text: 'Preview text',
  from_name: 'Sender name',
  from_email: 'Sender address',
  to_name: 'Recipient name',
  only_if: 'Send only if',
  link_tags: 'Link tagging',
  style: 'House style',
};

/** What a node is called that is not in the template any more. */
export const DELETED_PART = 'a deleted part';

/** What the property of the document at a path is called; the envelope for none. */
export const documentLabel = (path: string): string =>
  OF_DOCUMENT[path.split('.')[0] ?? ''] ?? 'Envelope';

/**
 * Names nodes as they stand in the outline; of the document itself the property at a path, as the subject, or the envelope;
 * a plain word for a node that is gone.
 */
export function nodeNames(
  template: Pick<Template, 'sections'>,
): (id: string, path?: string) => string {
  const names = new Map<string, string>();
  walkNodes(template, ({ node }) => {
    names.set(node.id, kindOf(node).label(node as never));
  });
  return (id, path = '') => {
    if (id === '') return documentLabel(path);
    return names.get(id) ?? DELETED_PART;
  };
}

/** Every node with its name, and how deep it stands. */
export function positionsWithNames(
  template: Pick<Template, 'sections'>,
): { node: TemplateNode; name: string; depth: number }[] {
  const all: { node: TemplateNode; name: string; depth: number }[] = [];
  walkNodes(template, ({ node, parents }) => {
    all.push({ node, name: kindOf(node).label(node as never), depth: parents.length });
  });
  return all;
}
