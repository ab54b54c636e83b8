import { findNode, listedOwner, walkNodes } from './nodes';
import type { Template, TemplateNode } from './schema';

/**
 * The nodes that are meant by some ids, in reading order. Of several, an else goes with what it belongs to,
 * and what stands inside another of them goes with that.
 */
export function chosenNodes(template: Template, ids: readonly string[]): TemplateNode[] {
  const [only, ...others] = ids;
  if (only !== undefined && others.length === 0) {
    const node = findNode(template, only)?.node;
    return node ? [node] : [];
  }
  const wanted = new Set(ids.map((id) => listedOwner(template, id)?.id ?? id));
  const chosen: TemplateNode[] = [];
  walkNodes(template, ({ node, parents, isElse }) => {
    const isInside = parents.some((parent) => wanted.has(parent.id));
    if (wanted.has(node.id) && !isInside && !isElse) chosen.push(node);
  });
  return chosen;
}
