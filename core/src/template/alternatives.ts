import { listedOwner } from './nodes';
import type { Template, TemplateNode } from './schema';

/**
 * All that may stand at the place of a node: the one with the first condition, then its else, and the else of
 * that. One node alone where there is no other.
 */
export function alternativesOf(template: Template, id: string): TemplateNode[] {
  const chain: TemplateNode[] = [];
  for (let node: TemplateNode | undefined = listedOwner(template, id); node; node = node.else)
    chain.push(node);
  return chain;
}

/** The condition under which one of several alternatives is what shows: none before it does, and it does. */
export function alternativeHolds(
  chain: readonly Pick<TemplateNode, 'when'>[],
  index: number,
): string {
  const before = chain.slice(0, index).map(({ when }) => `not (${when ?? 'true'})`);
  const own = chain[index]?.when;
  return [...before, ...(own === undefined ? [] : [`(${own})`])].join(' and ') || 'true';
}
