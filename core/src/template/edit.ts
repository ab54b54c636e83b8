import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer';
import { putAt } from '../blocks/fields';
import {
  childLists,
  childrenOf,
  findNode,
  isBlock,
  listedOwner,
  ownerOfElse,
  ROOT_SLOT,
  siblingsOf,
} from './nodes';
import type { Template, TemplateNode } from './schema';

enablePatches();

/** A change of a template as a value: what to apply, and what takes it back. */
export interface Edit {
  /** What was done, for undo's label: "Edit the heading". */
  label: string;
  /** Edits that follow each other with the same key within a short while become one. */
  key?: string;
  patches: Patch[];
  inverse: Patch[];
  /** What was selected when it was made: selected again when it is taken back. */
  selection?: readonly string[];
}

/** Applies a recipe; gives null where it changes nothing. */
export function edit(
  template: Template,
  label: string,
  recipe: (draft: Template) => void,
  key?: string,
): { template: Template; edit: Edit } | null {
  const [next, patches, inverse] = produceWithPatches(template, (draft) => {
    recipe(draft as Template);
  });
  if (patches.length === 0) return null;
  return { template: next, edit: { label, ...(key !== undefined && { key }), patches, inverse } };
}

export function apply(template: Template, change: Edit): Template {
  return applyPatches(template, change.patches);
}

export function takeBack(template: Template, change: Edit): Template {
  return applyPatches(template, change.inverse);
}

/** Where a node can be put: before an index of a parent's children; null is the whole email. */
export interface Spot {
  parent: string | null;
  /** The field of the parent that holds them; its first one where it is left out. */
  at?: string;
  index: number;
}

function listAt(
  template: Template,
  { parent, at }: Spot,
): { list: TemplateNode[]; accepts: string; most: number } | undefined {
  if (parent === null) return { list: template.sections, ...ROOT_SLOT };
  const node = findNode(template, parent)?.node;
  const found = node && childLists(node).find(({ slot }) => at === undefined || slot.at === at);
  return found && { list: found.list, accepts: found.slot.accepts, most: found.slot.most };
}

/** What a node counts as where something may stand: a block of any kind, a column or a section. */
export const levelOf = (node: TemplateNode) => (isBlock(node) ? 'block' : node.kind);

/** Whether a node of this kind may stand there. */
export function fits(template: Template, node: TemplateNode, spot: Spot): boolean {
  const place = listAt(template, spot);
  return place?.accepts === levelOf(node) && place.list.length < place.most;
}

/** The spot behind a node; behind an else is behind the node that it belongs to. */
export function spotAfter(template: Template, id: string): Spot | null {
  const owner = listedOwner(template, id);
  const siblings = owner && siblingsOf(template, owner.id);
  if (!siblings) return null;
  const { parent, slot, index } = siblings;
  return { parent: parent?.id ?? null, at: slot.at, index: index + 1 };
}

/** Puts a node in place. Does nothing where it does not fit. */
export function insertNode(draft: Template, node: TemplateNode, spot: Spot): void {
  if (fits(draft, node, spot)) listAt(draft, spot)?.list.splice(spot.index, 0, node);
}

/** Takes a node out; an else is taken off the node that it belongs to. */
export function removeNode(draft: Template, id: string): void {
  const siblings = siblingsOf(draft, id);
  if (siblings) {
    const { parent, list, index, slot } = siblings;
    // A section keeps at least one column; taking the last takes the section.
    if (parent && list.length <= (slot.least ?? 0)) removeNode(draft, parent.id);
    else list.splice(index, 1);
    return;
  }
  const owner = ownerOfElse(draft, id);
  if (owner) delete owner.else;
}

/** Moves a node to another spot, counted before it was taken out. */
export function moveNode(draft: Template, id: string, spot: Spot): void {
  const from = siblingsOf(draft, id);
  const to = listAt(draft, spot);
  const node = from?.list[from.index];
  if (!from || !to || !node) return;
  const within = from.list === to.list;
  if (!within && !fits(draft, node, spot)) return;
  // What needs at least one child keeps it.
  if (!within && from.list.length <= (from.slot.least ?? 0)) return;
  if (spot.parent !== null && contains(node, spot.parent)) return;
  from.list.splice(from.index, 1);
  to.list.splice(within && spot.index > from.index ? spot.index - 1 : spot.index, 0, node);
}

/** Whether a node is this one, or holds it. */
export function contains(node: TemplateNode, id: string): boolean {
  return (
    node.id === id ||
    childrenOf(node).some((child) => contains(child, id)) ||
    (node.else !== undefined && contains(node.else, id))
  );
}

/** Changes a node in place; does nothing when there is none with this id. */
export function changeNode(
  draft: Template,
  id: string,
  recipe: (node: TemplateNode) => void,
): void {
  const node = findNode(draft, id)?.node;
  if (node) recipe(node);
}

/** Puts a value at a path of a node, or of the template itself for null; undefined takes it away. */
export function putField(draft: Template, id: string | null, path: string, value: unknown): void {
  const owner = id === null ? draft : findNode(draft, id)?.node;
  if (owner) putAt(owner, path, value);
}
