import { contains, fits, levelOf, moveNode, type Spot } from './edit';
import { childLists, findNode, listedOwner, siblingsOf } from './nodes';
import type { Template, TemplateNode } from './schema';

/** Beside a node in the list that it stands in. */
function beside(template: Template, id: string, side: 'before' | 'after'): Spot | null {
  const owner = listedOwner(template, id);
  const place = owner && siblingsOf(template, owner.id);
  if (!place) return null;
  const { parent, slot, index } = place;
  return { parent: parent?.id ?? null, at: slot.at, index: side === 'before' ? index : index + 1 };
}

/** Where something that is new falls on the upper or lower half of a node; null where it cannot stand there. */
export function newSpot(
  template: Template,
  level: ReturnType<typeof levelOf>,
  target: string,
  side: 'before' | 'after',
): Spot | null {
  const place = findNode(template, target);
  if (!place) return null;
  const over = place.node;
  if (level === levelOf(over) && !(level === 'block' && isEmptyHolder(over)))
    return beside(template, target, side);
  if (level !== 'block') {
    const same = [...place.parents].reverse().find((parent) => levelOf(parent) === level);
    return same ? beside(template, same.id, side) : null;
  }
  const inside = over.kind === 'section' ? over.columns[0] : over;
  const [list] = inside ? childLists(inside) : [];
  if (!inside || !list) return null;
  const index = side === 'before' || over.kind === 'column' ? 0 : list.list.length;
  return { parent: inside.id, at: list.slot.at, index };
}

/**
 * Where a node falls that is dropped on the upper or lower half of another; null where it cannot stand
 * there, `stays` where it stands there already. Blocks fall into empty groups, into columns and into the first column of a section; a section or
 * a column falls beside the one that the other stands in.
 */
function fallOf(
  template: Template,
  dragged: string,
  target: string,
  side: 'before' | 'after',
): Spot | 'stays' | null {
  const node = findNode(template, dragged)?.node;
  const place = findNode(template, target);
  // What is an else goes with what it belongs to, and nothing falls into itself.
  if (!node || !place || listedOwner(template, dragged)?.id !== dragged) return null;
  if (contains(node, target)) return null;
  const found = newSpot(template, levelOf(node), target, side);
  if (!found) return null;
  const from = siblingsOf(template, dragged);
  const isSameList = from?.slot.at === found.at && (from?.parent?.id ?? null) === found.parent;
  if (isSameList) {
    const stays = from && (found.index === from.index || found.index === from.index + 1);
    return stays ? 'stays' : found;
  }
  // What needs at least one child keeps it.
  if (from && from.list.length <= (from.slot.least ?? 0)) return null;
  return fits(template, node, found) ? found : null;
}

function isEmptyHolder(node: TemplateNode): boolean {
  const [inside] = childLists(node);
  return inside?.list.length === 0;
}

/**
 * Whether what is dragged can fall on the upper or lower half of a node: of several, which stand on one level,
 * one can move at least, and none of them holds the other.
 */
export function canDrop(
  template: Template,
  dragged: readonly string[],
  target: string,
  side: 'before' | 'after',
): boolean {
  const nodes = dragged.map((id) => findNode(template, id)?.node);
  const [first] = nodes;
  if (!first || nodes.some((node) => !node || levelOf(node) !== levelOf(first))) return false;
  if (nodes.some((node) => node && contains(node, target))) return false;
  return dragged.some((id) => {
    const fall = fallOf(template, id, target, side);
    return fall !== null && fall !== 'stays';
  });
}

/** Moves nodes to where they were dropped, in a draft: the first of them, and each other behind the one before. */
export function dropNodes(
  draft: Template,
  dragged: readonly string[],
  target: string,
  side: 'before' | 'after',
): void {
  if (!canDrop(draft, dragged, target, side)) return;
  let at = { target, side };
  for (const id of dragged) {
    const fall = fallOf(draft, id, at.target, at.side);
    // What cannot leave where it is, the last column of a section, holds up none of the others.
    if (fall === null) continue;
    if (fall !== 'stays') moveNode(draft, id, fall);
    at = { target: id, side: 'after' };
  }
}
