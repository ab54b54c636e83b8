import { nanoid } from 'nanoid';
import {
  findNode,
  insertNode,
  listedOwner,
  moveNode,
  ownerOfElse,
  removeNode,
  siblingsOf,
  spotAfter,
  walkNodes,
  unwrapGroup,
  withNewIds,
  wrapInGroup,
  isBlock,
  type Column,
  type Spot,
  type Template,
  type TemplateNode,
} from '@carafe/core/template';
import { store, useAppDispatch } from '../../app/store';
import { deskActions } from './deskSlice';
import { focusMail } from './focusMail';
import { labelOf } from './labelOf';
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

/**
 * Where a node goes one place up or down; past the first or last of a column, into the one before or
 * after. Null where it is the first or last of all.
 */
export function moveTarget(
  template: Template,
  id: string,
  by: -1 | 1,
): { owner: TemplateNode; spot: Spot } | null {
  const owner = listedOwner(template, id);
  const place = owner && siblingsOf(template, owner.id);
  if (!place) return null;
  const to = place.index + (by === 1 ? 2 : -1);
  const spot =
    to < 0 || to > place.list.length
      ? beside(template, owner, by)
      : { parent: place.parent?.id ?? null, at: place.slot.at, index: to };
  return spot && { owner, spot };
}

/** What is selected when a node has gone: the one after it, or before it, or what it stood in. */
function besideOf(template: Template, id: string): string | null {
  const place = siblingsOf(template, id);
  if (!place) return ownerOfElse(template, id)?.id ?? null;
  const { list, index, parent } = place;
  return (list[index + 1] ?? list[index - 1] ?? parent)?.id ?? null;
}

/** Moving, doubling and deleting whole nodes. An else goes with the node that it belongs to. */
export function useNodeActions() {
  const { change, select } = useEdit();
  const dispatch = useAppDispatch();
  const say = (words: string) => dispatch(deskActions.said(words));
  const template = () => store.getState().desk.template;
  return {
    move(id: string, by: -1 | 1) {
      const now = template();
      const target = now && moveTarget(now, id, by);
      if (!target) return;
      change('Move', (draft) => moveNode(draft, target.owner.id, target.spot));
      say(`Moved ${by === 1 ? 'down' : 'up'}: ${labelOf(target.owner)}.`);
    },
    duplicate(id: string) {
      const now = template();
      const node = now && findNode(now, id)?.node;
      const spot = now && spotAfter(now, id);
      if (!node || !spot) return;
      const copy = withNewIds(node, () => nanoid(8));
      change('Duplicate', (draft) => insertNode(draft, copy, spot));
      select(copy.id);
      say(`Duplicated: the copy of ${labelOf(node)} is selected.`);
    },
    /** Puts a block into a group, so that it repeats or shows together with others. */
    group(id: string) {
      const groupId = nanoid(8);
      let isDone = false;
      change('Group', (draft) => {
        isDone = wrapInGroup(draft, id, groupId);
      });
      if (!isDone) return;
      select(groupId);
      say('Put into a group.');
    },
    ungroup(id: string) {
      let inside: string[] = [];
      change('Ungroup', (draft) => {
        inside = unwrapGroup(draft, id);
      });
      if (inside[0] === undefined) return;
      select(inside[0]);
      say('Taken out of the group.');
    },
    /** What stands beside what was deleted is selected then. */
    remove(id: string) {
      const now = template();
      const node = now && findNode(now, id)?.node;
      if (!node) return;
      const next = besideOf(now, id);
      change('Delete', (draft) => removeNode(draft, id));
      select(next);
      say(`Deleted: ${labelOf(node)}.`);
      focusMail();
    },
  };
}
