import type { ChildSlot } from '../blocks/define';
import { valueAt } from '../blocks/fields';
import { kindOf } from './kinds';
import type { Loop } from './parts';
import type { Block, Template, TemplateNode } from './schema';

/** A node with what it stands in, from the outside in, and whether it is an else. */
export interface NodePosition {
  node: TemplateNode;
  parents: readonly TemplateNode[];
  isElse: boolean;
}

/** The lists of nodes directly inside a node, each with what it accepts. Its else is none of them. */
export function childLists(node: TemplateNode): { slot: ChildSlot; list: TemplateNode[] }[] {
  return (kindOf(node).children ?? []).flatMap((slot) => {
    const list = valueAt(node, slot.at);
    return Array.isArray(list) ? [{ slot, list: list as TemplateNode[] }] : [];
  });
}

/** The nodes directly inside a node, without its else. */
export function childrenOf(node: TemplateNode): readonly TemplateNode[] {
  const lists = childLists(node);
  return lists.length === 1 ? (lists[0]?.list ?? []) : lists.flatMap(({ list }) => list);
}

/**
 * Calls `visit` for every node in reading order; an else comes after the node that it stands in for.
 * Where `visit` gives false, the walk ends.
 */
export function walkNodes(
  template: Pick<Template, 'sections'>,
  visit: (position: NodePosition) => unknown,
): void {
  const step = (node: TemplateNode, parents: readonly TemplateNode[], isElse: boolean): boolean => {
    if (visit({ node, parents, isElse }) === false) return false;
    const inside = [...parents, node];
    for (const child of childrenOf(node)) if (!step(child, inside, false)) return false;
    return node.else ? step(node.else, parents, true) : true;
  };
  for (const section of template.sections) if (!step(section, [], false)) return;
}

export function findNode(
  template: Pick<Template, 'sections'>,
  id: string,
): NodePosition | undefined {
  let found: NodePosition | undefined;
  walkNodes(template, (position) => {
    if (position.node.id === id) found = position;
    return found === undefined;
  });
  return found;
}

/** The list that a node stands in, and its index there. */
export interface Siblings {
  list: TemplateNode[];
  index: number;
  /** What the list belongs to; null is the whole email. */
  parent: TemplateNode | null;
  slot: ChildSlot;
}

/** The sections of a mail. */
export const ROOT_SLOT = { at: 'sections', accepts: 'section', most: 200 } as const;

/** The list that a node stands in; an else stands in none. */
export function siblingsOf(template: Pick<Template, 'sections'>, id: string): Siblings | undefined {
  const found = findNode(template, id);
  if (!found || found.isElse) return undefined;
  const parent = found.parents.at(-1) ?? null;
  const lists = parent
    ? childLists(parent)
    : [{ slot: ROOT_SLOT as unknown as ChildSlot, list: template.sections as TemplateNode[] }];
  for (const { slot, list } of lists) {
    const index = list.findIndex((node) => node.id === id);
    if (index >= 0) return { list, index, parent, slot };
  }
  return undefined;
}

/** The node whose else has this id. */
export function ownerOfElse(
  template: Pick<Template, 'sections'>,
  id: string,
): TemplateNode | undefined {
  let owner: TemplateNode | undefined;
  walkNodes(template, ({ node }) => {
    if (node.else?.id === id) owner = node;
    return owner === undefined;
  });
  return owner;
}

/** The node itself, or for an else the one in a list that it belongs to. */
export function listedOwner(
  template: Pick<Template, 'sections'>,
  id: string,
): TemplateNode | undefined {
  const owner = ownerOfElse(template, id);
  return owner ? listedOwner(template, owner.id) : findNode(template, id)?.node;
}

/** The loop of a node's own list, for kinds that walk one. */
export function itemsOf(node: TemplateNode): Loop | undefined {
  const { list } = kindOf(node) as { list?: string };
  return list === undefined ? undefined : (valueAt(node, list) as Loop | undefined);
}

/** A copy with new ids throughout. */
export function withNewIds<N extends TemplateNode>(node: N, newId: () => string): N {
  const copy = structuredClone(node);
  const renew = (n: TemplateNode): void => {
    n.id = newId();
    childrenOf(n).forEach(renew);
    if (n.else) renew(n.else);
  };
  renew(copy);
  return copy;
}

export function isBlock(node: TemplateNode): node is Block {
  return node.kind !== 'section' && node.kind !== 'column';
}
