import { BLOCKS } from '../blocks';
import type { SlotVisitor } from '../blocks/define';
import { isBlock, itemsOf, walkNodes } from './nodes';
import type { Loop } from './parts';
import type { Block, Template, TemplateNode } from './schema';

/** A place in a template that holds a formula or running text. */
export interface Slot {
  /** The node it belongs to; null for the envelope. */
  node: TemplateNode | null;
  /** The property, as a path from the node (or the envelope): `items.where`, `rows.2.amount`. */
  path: string;
  /** Running text with tags, or one formula. */
  form: 'running' | 'formula';
  use: 'tag' | 'condition' | 'list' | 'value';
  source: string;
  /** The conditions that hold where it stands: its node's own and those around. */
  guards: readonly string[];
  /** The loops that it stands in, from the outside in. */
  loops: readonly Loop[];
}

type Visit = (slot: Slot) => void;
/** Visits a slot of which the guards are still to be said. */
type VisitUnguarded = (slot: Omit<Slot, 'guards'>) => void;

function loopSlots(
  node: TemplateNode,
  loop: Loop,
  path: string,
  loops: readonly Loop[],
  visit: VisitUnguarded,
) {
  const inside = [...loops, loop];
  const formula = (name: string, source: string, use: Slot['use'], at: readonly Loop[]) =>
    visit({ node, path: `${path}.${name}`, form: 'formula', use, source, loops: at });
  formula('list', loop.list, 'list', loops);
  if (loop.where) formula('where', loop.where, 'condition', inside);
  if (loop.sort) formula('sort.by', loop.sort.by, 'value', inside);
}

function contentSlots(block: Block, loops: readonly Loop[], visit: VisitUnguarded): void {
  const at = (inside?: Loop) => (inside ? [...loops, inside] : loops);
  const visitor: SlotVisitor = {
    running(path, source, inside) {
      // A picture without an address is left out: a blank one needs no fallback.
      const use = path.endsWith('src') ? 'value' : 'tag';
      if (source) visit({ node: block, path, form: 'running', use, source, loops: at(inside) });
    },
    formula(path, source, use, inside) {
      if (source) visit({ node: block, path, form: 'formula', use, source, loops: at(inside) });
    },
  };
  const definition = BLOCKS[block.kind] as { slots(block: Block, visit: SlotVisitor): void };
  definition.slots(block, visitor);
}

/** Calls `visit` for every formula and running text of a template, in reading order. */
export function walkSlots(template: Template, visit: Visit): void {
  for (const path of ['from_name', 'subject', 'preview_text'] as const) {
    const source = template.envelope[path];
    if (source)
      visit({ node: null, path, form: 'running', use: 'tag', source, loops: [], guards: [] });
  }
  walkNodes(template, ({ node, parents }) => {
    const outer = parents.flatMap((parent) => (parent.loop ? [parent.loop] : []));
    const around = parents.flatMap((parent) => (parent.when !== undefined ? [parent.when] : []));
    const guards = node.when !== undefined ? [...around, node.when] : around;
    const guarded: VisitUnguarded = (slot) => visit({ ...slot, guards });
    // A node's condition is asked once, before its loop.
    if (node.when !== undefined)
      visit({
        node,
        path: 'when',
        form: 'formula',
        use: 'condition',
        source: node.when,
        loops: outer,
        guards: around,
      });
    if (node.loop) loopSlots(node, node.loop, 'loop', outer, guarded);
    const loops = node.loop ? [...outer, node.loop] : outer;
    const items = itemsOf(node);
    if (items) loopSlots(node, items, 'items', loops, guarded);
    if (isBlock(node)) contentSlots(node, loops, guarded);
  });
}
