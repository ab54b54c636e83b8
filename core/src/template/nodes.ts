import type { Loop } from './parts';
import type { Block, Template, TemplateNode } from './schema';

/** A node with what it stands in, from the outside in, and whether it is an else. */
export interface Place {
  node: TemplateNode;
  parents: readonly TemplateNode[];
  isElse: boolean;
}

/** The nodes directly inside a node, without its else. */
export function childrenOf(node: TemplateNode): readonly TemplateNode[] {
  if (node.kind === 'section') return node.columns;
  return node.kind === 'column' ? node.blocks : [];
}

/** Calls `visit` for every node in reading order; an else comes after the node that it stands in for. */
export function walkNodes(
  template: Pick<Template, 'sections'>,
  visit: (place: Place) => void,
): void {
  const step = (node: TemplateNode, parents: readonly TemplateNode[], isElse: boolean): void => {
    visit({ node, parents, isElse });
    const inside = [...parents, node];
    for (const child of childrenOf(node)) step(child, inside, false);
    if (node.else) step(node.else, parents, true);
  };
  for (const section of template.sections) step(section, [], false);
}

export function findNode(template: Pick<Template, 'sections'>, id: string): Place | undefined {
  let found: Place | undefined;
  walkNodes(template, (place) => {
    if (place.node.id === id) found ??= place;
  });
  return found;
}

/** The list that a node stands in and its index there; an else stands in none. */
export function siblingsOf(
  template: Template,
  id: string,
): { list: TemplateNode[]; index: number; parent: TemplateNode | null } | undefined {
  const search = (
    list: TemplateNode[],
    parent: TemplateNode | null,
  ): ReturnType<typeof siblingsOf> => {
    const index = list.findIndex((node) => node.id === id);
    if (index >= 0) return { list, index, parent };
    for (const node of list) {
      for (const inside of [node, ...elses(node)]) {
        const found =
          inside.kind === 'section'
            ? search(inside.columns, inside)
            : inside.kind === 'column'
              ? search(inside.blocks, inside)
              : undefined;
        if (found) return found;
      }
    }
    return undefined;
  };
  return search(template.sections, null);
}

function elses(node: TemplateNode): TemplateNode[] {
  const chain: TemplateNode[] = [];
  for (let next = node.else; next; next = next.else) chain.push(next);
  return chain;
}

/** The loop of a block's own list: cards and lines walk one. */
export function itemsOf(node: TemplateNode): Loop | undefined {
  return node.kind === 'cards' || node.kind === 'lines' ? node.items : undefined;
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
