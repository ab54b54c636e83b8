import { kindOf } from './kinds';
import { walkNodes } from './nodes';
import type { Template, TemplateNode } from './schema';

/** Names nodes as they stand in the outline; the envelope for none, and a plain word for one that is gone. */
export function nodeNames(template: Pick<Template, 'sections'>): (id: string) => string {
  const names = new Map<string, string>([['', 'Envelope']]);
  walkNodes(template, ({ node }) => {
    names.set(node.id, kindOf(node).label(node as never));
  });
  return (id) => names.get(id) ?? 'a part that is gone';
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
