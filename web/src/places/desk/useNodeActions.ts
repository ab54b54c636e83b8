import { nanoid } from 'nanoid';
import {
  findNode,
  insertNode,
  listedOwner,
  moveNode,
  removeNode,
  siblingsOf,
  spotAfter,
  walkNodes,
  withNewIds,
  isBlock,
  type Column,
  type Spot,
  type Template,
  type TemplateNode,
} from '@carafe/core/template';
import { store } from '../../app/store';
import { useEdit } from './useEdit';

/** The end or the beginning of the column before or after the one that a block stands in. */
function beside(template: Template, node: TemplateNode, by: -1 | 1): Spot | null {
  if (!isBlock(node)) return null;
  const columns: Column[] = [];
  walkNodes(template, (one) => {
    if (one.node.kind === 'column' && !one.isElse) columns.push(one.node);
  });
  const at = columns.findIndex(({ blocks }) => blocks.some(({ id }) => id === node.id));
  const other = at < 0 ? undefined : columns[at + by];
  return other
    ? { parent: other.id, at: 'blocks', index: by === 1 ? 0 : other.blocks.length }
    : null;
}

/** Moving, doubling and deleting whole nodes. An else goes with the node that it belongs to. */
export function useNodeActions() {
  const { change, select } = useEdit();
  const template = () => store.getState().desk.template;
  return {
    /** One place up or down; past the first or last of a column, into the one before or after. */
    move(id: string, by: -1 | 1) {
      const now = template();
      const owner = now && listedOwner(now, id);
      const place = owner && siblingsOf(now, owner.id);
      if (!place) return;
      const to = place.index + (by === 1 ? 2 : -1);
      const spot =
        to < 0 || to > place.list.length
          ? beside(now, owner, by)
          : { parent: place.parent?.id ?? null, at: place.slot.at, index: to };
      if (spot) change('Move', (draft) => moveNode(draft, owner.id, spot));
    },
    duplicate(id: string) {
      const now = template();
      const node = now && findNode(now, id)?.node;
      const spot = now && spotAfter(now, id);
      if (!node || !spot) return;
      const copy = withNewIds(node, () => nanoid(8));
      change('Duplicate', (draft) => insertNode(draft, copy, spot));
      select(copy.id);
    },
    remove(id: string) {
      change('Delete', (draft) => removeNode(draft, id));
      select(null);
    },
  };
}
