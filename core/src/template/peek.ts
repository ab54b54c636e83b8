import { changeNode, edit } from './edit';
import { findNode, ownerOfElse } from './nodes';
import type { Template, TemplateNode } from './schema';

/** The nodes in whose place a node shows: those whose else it is, or stands in. */
export function elseOwners(template: Template, id: string): TemplateNode[] {
  const place = findNode(template, id);
  if (!place) return [];
  const owners: TemplateNode[] = [];
  for (const node of [...place.parents, place.node])
    for (let owner = ownerOfElse(template, node.id); owner; owner = ownerOfElse(template, owner.id))
      owners.push(owner);
  return owners;
}

/**
 * The template as it would be for somebody for whom a node shows: where it is in an else, the
 * conditions before it do not hold. Null where it is in none.
 */
export function withElseShown(template: Template, id: string): Template | null {
  const owners = elseOwners(template, id);
  if (owners.length === 0) return null;
  const done = edit(template, 'Look at the else', (draft) => {
    for (const owner of owners) changeNode(draft, owner.id, (node) => void (node.when = 'false'));
  });
  return done?.template ?? template;
}
