import { nanoid } from 'nanoid';
import { insertNode, moveNode, removeNode, siblingsOf, withNewIds } from '@carafe/core/template';
import { useAppSelector } from '../../app/store';
import { useEdit } from './useEdit';

/** Moving, doubling and deleting whole nodes. */
export function useNodeActions() {
  const template = useAppSelector((s) => s.desk.template);
  const { change, select } = useEdit();
  return {
    /** One place up or down among its siblings. */
    move(id: string, by: -1 | 1) {
      const place = template && siblingsOf(template, id);
      if (!place) return;
      const to = place.index + (by === 1 ? 2 : -1);
      if (to < 0 || to > place.list.length) return;
      change('Move', (draft) =>
        moveNode(draft, id, { parent: place.parent?.id ?? null, index: to }),
      );
    },
    duplicate(id: string) {
      const place = template && siblingsOf(template, id);
      const node = place?.list[place.index];
      if (!place || !node) return;
      const copy = withNewIds(node, () => nanoid(8));
      change('Duplicate', (draft) =>
        insertNode(draft, copy, { parent: place.parent?.id ?? null, index: place.index + 1 }),
      );
      select(copy.id);
    },
    remove(id: string) {
      change('Delete', (draft) => removeNode(draft, id));
      select(null);
    },
  };
}
