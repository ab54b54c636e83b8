import { nanoid } from 'nanoid';
import {
  chosenNodes,
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
  wrapInSection,
  type NoSection,
  isBlock,
  type Column,
  type Spot,
  type Template,
  type TemplateNode,
} from '@carafe/core/template';
import { store, useAppDispatch } from '../../app/store';
import { counted } from '@carafe/core/words';
import { notifyOf } from '../../parts/notify';
import { deskActions } from './deskSlice';
import { focusMail } from './focusMail';
import { labelOf } from './labelOf';
import { useEdit } from './useEdit';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

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

const NO_SECTION: Record<NoSection, string> = {
  'no blocks': t('onlyBlocksCanHaveTheirOwn'),
  apart: t('theseBlocksAreNotNextTo'),
  alone: t('theSelectionAlreadyHasItsOwn'),
  'in a group': t('thisIsInsideAGroupUngroup'),
  'in columns': t('thereIsAnotherColumnBesideIt'),
  repeats: t('aSectionThatRepeatsOrHas'),
  'too many': t('aTemplateCanHaveAtMost'),
};

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
  const chosen = () => {
    const { selected, also, template: now } = store.getState().desk;
    return now && selected ? chosenNodes(now, [...also, selected]) : [];
  };
  return {
    /** Moves what is selected one place up or down; where the first of it cannot, nothing moves. */
    move(by: -1 | 1) {
      const now = template();
      const nodes = by === 1 ? chosen().toReversed() : chosen();
      const [first] = nodes;
      const target = now && first && moveTarget(now, first.id, by);
      if (!target) return;
      change('Move', (draft) => {
        for (const { id } of nodes) {
          const next = moveTarget(draft, id, by);
          if (next) moveNode(draft, next.owner.id, next.spot);
        }
      });
      const what = nodes.length === 1 ? labelOf(target.owner) : counted(nodes.length, 'part');
      say(`Moved ${by === 1 ? 'down' : 'up'}: ${what}.`);
    },
    /** Doubles what is selected, each behind itself. */
    duplicate() {
      const nodes = chosen();
      const copies = nodes.map((node) => withNewIds(node, () => nanoid(8)));
      if (copies.length === 0) return;
      change('Duplicate', (draft) =>
        nodes.forEach((node, i) => {
          const spot = spotAfter(draft, node.id);
          const copy = copies[i];
          if (spot && copy) insertNode(draft, copy, spot);
        }),
      );
      dispatch(deskActions.stretched(copies.map((copy) => copy.id)));
      const [first, ...more] = nodes;
      say(
        more.length === 0 && first
          ? `Duplicated: the copy of ${labelOf(first)} is selected.`
          : `Duplicated: ${nodes.length} copies are selected.`,
      );
    },
    /** Puts blocks into a group, so that they repeat or show together. */
    group() {
      const groupId = nanoid(8);
      const ids = chosen().map((node) => node.id);
      let isDone = false;
      change('Group', (draft) => {
        isDone = wrapInGroup(draft, ids, groupId);
      });
      if (!isDone) return;
      select(groupId);
      say('Grouped.');
    },
    /** Gives blocks a section of their own; what cannot have one is told why. */
    section() {
      const ids = chosen().map((node) => node.id);
      let done: ReturnType<typeof wrapInSection> | undefined;
      change('A section of its own', (draft) => {
        done = wrapInSection(draft, ids, () => nanoid(8));
      });
      if (!done) return;
      if (!done.ok) {
        notifyOf(t('noSectionOfItsOwn'), NO_SECTION[done.why]);
        return;
      }
      select(done.id);
      say('Moved to its own section.');
    },
    /** Takes a group apart; what repeated or hid it goes with it, and that is said. */
    ungroup(id: string) {
      const now = template();
      const group = now && findNode(now, id)?.node;
      let inside: string[] = [];
      change('Ungroup', (draft) => {
        inside = unwrapGroup(draft, id);
      });
      if (!group || inside[0] === undefined) return;
      dispatch(deskActions.stretched(inside));
      const gone = [
        ...(group.when === undefined ? [] : ['condition']),
        ...(group.loop ? ['loop'] : []),
        ...(group.else ? ['else'] : []),
      ];
      say('Taken out of the group.');
      if (gone.length > 0)
        notifyOf(
          t('ungrouped'),
          t('itsGoneWhichDeletedWithIt', {
            gone: gone.join(' and its '),
            which: gone.length === 1 ? 'was' : 'were',
          }),
        );
    },
    /** What stands beside what was deleted is selected then. */
    remove() {
      const now = template();
      const nodes = chosen();
      const last = nodes.at(-1);
      if (!now || !last) return;
      const ids = nodes.map((node) => node.id);
      const next = besideOf(now, last.id);
      const gone = new Set(ids);
      change('Delete', (draft) => ids.forEach((id) => removeNode(draft, id)));
      select(next !== null && gone.has(next) ? null : next);
      say(ids.length === 1 ? `Deleted: ${labelOf(last)}.` : `Deleted: ${ids.length} parts.`);
      focusMail();
    },
  };
}
