import { nanoid } from 'nanoid';
import {
  findNode,
  insertNode,
  listedOwner,
  moveNode,
  removeNode,
  siblingsOf,
  spotAfter,
  withNewIds,
} from '@carafe/core/template';
import { store } from '../../app/store';
import { useEdit } from './useEdit';

/** Moving, doubling and deleting whole nodes. An else goes with the node that it belongs to. */
export function useNodeActions() {
  const { change, select } = useEdit();
  const template = () => store.getState().desk.template;
  return {
    /** One place up or down among its siblings. */
    move(id: string, by: -1 | 1) {
      const now = template();
      const owner = now && listedOwner(now, id);
      const place = owner && siblingsOf(now, owner.id);
      if (!place) return;
      const to = place.index + (by === 1 ? 2 : -1);
      if (to < 0 || to > place.list.length) return;
      change('Move', (draft) =>
        moveNode(draft, owner.id, {
          parent: place.parent?.id ?? null,
          at: place.slot.at,
          index: to,
        }),
      );
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
