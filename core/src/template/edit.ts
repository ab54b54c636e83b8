import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer';
import { findNode, siblingsOf } from './nodes';
import type { Block, Column, Section, Template, TemplateNode } from './schema';

enablePatches();

/** A change of a template as a value: what to apply, and what takes it back. */
export interface Edit {
  /** What was done, for undo's label: "Edit the heading". */
  says: string;
  /** Edits that follow each other with the same key within a short while become one. */
  key?: string;
  patches: Patch[];
  inverse: Patch[];
}

/** Applies a recipe; gives null where it changes nothing. */
export function edit(
  template: Template,
  says: string,
  recipe: (draft: Template) => void,
  key?: string,
): { template: Template; edit: Edit } | null {
  const [next, patches, inverse] = produceWithPatches(template, (draft) => {
    recipe(draft as Template);
  });
  if (patches.length === 0) return null;
  return { template: next, edit: { says, ...(key !== undefined && { key }), patches, inverse } };
}

export function apply(template: Template, change: Edit): Template {
  return applyPatches(template, change.patches);
}

export function takeBack(template: Template, change: Edit): Template {
  return applyPatches(template, change.inverse);
}

/** Where a node can be put: before an index of a parent's children; null is the whole mail. */
export interface Spot {
  parent: string | null;
  index: number;
}

function listAt(draft: Template, spot: Spot): TemplateNode[] | undefined {
  if (spot.parent === null) return draft.sections;
  const parent = findNode(draft, spot.parent)?.node;
  if (parent?.kind === 'section') return parent.columns;
  return parent?.kind === 'column' ? parent.blocks : undefined;
}

/** Whether a node of this kind may stand there. */
export function fits(template: Template, node: TemplateNode, spot: Spot): boolean {
  if (spot.parent === null) return node.kind === 'section';
  const parent = findNode(template, spot.parent)?.node;
  if (parent?.kind === 'section') return node.kind === 'column' && parent.columns.length < 4;
  return parent?.kind === 'column' && node.kind !== 'section' && node.kind !== 'column';
}

/** Puts a node in place. Does nothing where it does not fit. */
export function insertNode(draft: Template, node: TemplateNode, spot: Spot): void {
  if (fits(draft, node, spot)) listAt(draft, spot)?.splice(spot.index, 0, node);
}

/** Takes a node out; an else is taken off the node that it belongs to. */
export function removeNode(draft: Template, id: string): void {
  const place = siblingsOf(draft, id);
  if (place) {
    // A section keeps at least one column; taking the last takes the section.
    if (place.parent?.kind === 'section' && place.list.length === 1)
      removeNode(draft, place.parent.id);
    else place.list.splice(place.index, 1);
    return;
  }
  const owner = ownerOfElse(draft, id);
  if (owner) delete owner.else;
}

/** The node whose else has this id. */
export function ownerOfElse(template: Template, id: string): TemplateNode | undefined {
  const search = (node: TemplateNode): TemplateNode | undefined => {
    if (node.else?.id === id) return node;
    const inside: TemplateNode[] = [
      ...(node.kind === 'section' ? node.columns : node.kind === 'column' ? node.blocks : []),
      ...(node.else ? [node.else] : []),
    ];
    for (const child of inside) {
      const found = search(child);
      if (found) return found;
    }
    return undefined;
  };
  for (const section of template.sections) {
    const found = search(section);
    if (found) return found;
  }
  return undefined;
}

/** Moves a node to another spot, counted before it was taken out. */
export function moveNode(draft: Template, id: string, spot: Spot): void {
  const from = siblingsOf(draft, id);
  const node = from?.list[from.index];
  if (!from || !node || !listAt(draft, spot)) return;
  const within = from.parent?.id === spot.parent || (from.parent === null && spot.parent === null);
  if (!within && !fits(draft, node, spot)) return;
  // A section keeps at least one column.
  if (!within && from.parent?.kind === 'section' && from.list.length === 1) return;
  if (spot.parent !== null && containsNode(node, spot.parent)) return;
  from.list.splice(from.index, 1);
  const index = within && spot.index > from.index ? spot.index - 1 : spot.index;
  listAt(draft, spot)?.splice(index, 0, node);
}

function containsNode(node: TemplateNode, id: string): boolean {
  return node.id === id || findNode({ sections: [asSection(node)] }, id) !== undefined;
}

function asSection(node: TemplateNode): Section {
  if (node.kind === 'section') return node;
  const column: Column =
    node.kind === 'column' ? node : { kind: 'column', id: '', blocks: [node as Block] };
  return { kind: 'section', id: '', columns: [column] };
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
