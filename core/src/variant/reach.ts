import { bitOf, type Decision } from '../render';
import { childrenOf } from '../template/nodes';
import type { Template, TemplateNode } from '../template/schema';
import { bitsOf, type VariantFigure } from './figures';

/** What must have come out for a node to show: decisions by number, each with the bit of its outcome. */
export type Needed = readonly { decision: number; bit: number }[];

/** A node of a template, and what must come out for it to show. */
export interface Reached {
  node: TemplateNode;
  isElse: boolean;
  needed: Needed;
}

/** For every node what must come out for it to show: the conditions and loops of its own and around it. */
export function reachOf(template: Template, decisions: readonly Decision[]): Reached[] {
  const numbers = new Map(decisions.map((one, i) => [`${one.kind} ${one.node} ${one.path}`, i]));
  const all: Reached[] = [];
  const step = (node: TemplateNode, around: Needed, isElse: boolean): void => {
    const when = numbers.get(`condition ${node.id} when`);
    const loop = numbers.get(`list ${node.id} loop`);
    const held =
      when === undefined
        ? around
        : [...around, { decision: when, bit: bitOf('condition', 'held') }];
    const needed =
      loop === undefined ? held : [...held, { decision: loop, bit: ~bitOf('list', 'none') }];
    all.push({ node, isElse, needed });
    for (const child of childrenOf(node)) step(child, needed, false);
    if (node.else)
      step(
        node.else,
        when === undefined
          ? around
          : [...around, { decision: when, bit: bitOf('condition', 'not') }],
        true,
      );
  };
  for (const section of template.sections) step(section, [], false);
  return all;
}

/** Whether all that is needed came out in a variant. Inside loops: for one member at least. */
export function isReached(needed: Needed, bits: readonly number[]): boolean {
  return needed.every(({ decision, bit }) => ((bits[decision] ?? 0) & bit) !== 0);
}

/** How many people reach something, and one of them; null where nobody does. */
export interface Reach {
  people: number;
  person: number | null;
}

export function peopleWith(
  variants: readonly VariantFigure[],
  holds: (bits: readonly number[]) => boolean,
): Reach {
  let people = 0;
  let person: number | null = null;
  for (const variant of variants) {
    if (!holds(bitsOf(variant.key))) continue;
    people += variant.people;
    person ??= variant.person;
  }
  return { people, person };
}
