import { changeNode, edit } from './edit';
import { walkNodes, type NodePosition } from './nodes';
import type { Template, TemplateNode } from './schema';

/** The nodes in whose place a node shows: those whose else it is, or stands in. */
export function elseOwners(template: Template, id: string): TemplateNode[] {
  const owners = new Map<string, TemplateNode>();
  let place: NodePosition | undefined;
  walkNodes(template, (position) => {
    const { node } = position;
    if (node.else) owners.set(node.else.id, node);
    if (node.id === id) place = position;
    return place === undefined;
  });
  if (!place) return [];
  return [...place.parents, place.node].flatMap((node) => {
    const before: TemplateNode[] = [];
    for (let owner = owners.get(node.id); owner; owner = owners.get(owner.id)) before.push(owner);
    return before;
  });
}

/**
 * The template as it would be for somebody for whom a node shows: where it is in an else, the
 * conditions before it do not hold. Null where it is in none.
 */
export function withElseShown(template: Template, id: string): Template | null {
  const owners = elseOwners(template, id);
  if (owners.length === 0) return null;
  const done = edit(template, 'View the alternative', (draft) => {
    for (const owner of owners) changeNode(draft, owner.id, (node) => void (node.when = 'false'));
  });
  return done?.template ?? template;
}
