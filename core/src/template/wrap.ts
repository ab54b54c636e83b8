import { current, isDraft } from 'immer';
import { moveNode, spotAfter } from './edit';
import { newSection, type NewId } from './make';
import { childLists, findNode, isBlock, ROOT_SLOT, siblingsOf } from './nodes';
import type { Block, Column, Section, Template } from './schema';

/** Puts blocks into a group of their own, where the first of them stands. */
export function wrapInGroup(
  draft: Template,
  [id = '', ...others]: readonly string[],
  groupId: string,
): boolean {
  const node = findNode(draft, id)?.node;
  const spot = node && isBlock(node) ? spotAfter(draft, id) : null;
  if (!node || !isBlock(node) || !spot) return false;
  const { parent, at, index } = spot;
  const owner = parent === null ? null : findNode(draft, parent)?.node;
  const list = owner && childLists(owner).find(({ slot }) => slot.at === at)?.list;
  if (!list) return false;
  const [taken] = list.splice(index - 1, 1);
  const group = { kind: 'group', id: groupId, blocks: [taken] };
  list.splice(index - 1, 0, group as unknown as Block);
  others.forEach((other, i) =>
    moveNode(draft, other, { parent: groupId, at: 'blocks', index: i + 1 }),
  );
  return true;
}

/**
 * Why blocks cannot have a section of their own: they are none, or not beside each other; have one already; stand in a
 * group, beside another column, or in a section that repeats or has an alternative when the condition is not met; or the
 * template has as many sections as it may.
 */
export type NoSection =
  'no blocks' | 'apart' | 'alone' | 'in a group' | 'in columns' | 'repeats' | 'too many';

/**
 * Gives blocks that stand beside each other a section of their own, in a draft: the one that they stood in is parted
 * before and behind them, each part with its looks and its condition. Gives the id of their section.
 */
export function wrapInSection(
  draft: Template,
  ids: readonly string[],
  newId: NewId,
): { ok: true; id: string } | { ok: false; why: NoSection } {
  const places = ids.map((id) => siblingsOf(draft, id));
  const [first] = places;
  if (!first || ids.some((id) => !isBlockOf(draft, id))) return { ok: false, why: 'no blocks' };
  const { list, index, parent: column } = first;
  const isBeside = places.every((place, i) => place?.list === list && place.index === index + i);
  if (!isBeside) return { ok: false, why: 'apart' };
  if (column?.kind !== 'column') return { ok: false, why: 'in a group' };
  const at = draft.sections.findIndex(({ columns }) => columns.some(({ id }) => id === column.id));
  const section = draft.sections[at];
  if (!section) return { ok: false, why: 'in a group' };
  if (column.blocks.length === ids.length) return { ok: false, why: 'alone' };
  if (section.columns.length > 1) return { ok: false, why: 'in columns' };
  if (section.loop || section.else || column.loop || column.when !== undefined)
    return { ok: false, why: 'repeats' };
  const behind = column.blocks.slice(index + ids.length);
  const more = index > 0 && behind.length > 0 ? 2 : 1;
  if (draft.sections.length + more > ROOT_SLOT.most) return { ok: false, why: 'too many' };
  const plain = isDraft(section) ? current(section) : section;
  /** A section that looks as this one does, under the same condition. */
  const part = (blocks: Block[]): Section => {
    const { name: _, ...kept } = { ...plain, ...newSection(newId) };
    const columns = kept.columns.map(({ id }) => ({
      ...plain.columns[0],
      kind: 'column',
      id,
      blocks,
    }));
    return { ...kept, columns: columns as Column[] };
  };
  const before = column.blocks.slice(0, index);
  const own = part(column.blocks.slice(index, index + ids.length));
  // The section that there was goes on with what stood before, else with what stands behind.
  column.blocks = index > 0 ? before : behind;
  const parts = index > 0 ? [section, own] : [own, section];
  if (index > 0 && behind.length > 0) parts.push(part(behind));
  draft.sections.splice(at, 1, ...parts);
  return { ok: true, id: own.id };
}

const isBlockOf = (draft: Template, id: string): boolean => {
  const node = findNode(draft, id)?.node;
  return node !== undefined && isBlock(node);
};

/** Takes the blocks of a group out, where it stood. What repeated or hid it goes with it. */
export function unwrapGroup(draft: Template, id: string): string[] {
  const node = findNode(draft, id)?.node;
  const spot = node && spotAfter(draft, id);
  if (!node || !isBlock(node) || !spot) return [];
  const owner = spot.parent === null ? null : findNode(draft, spot.parent)?.node;
  const list = owner && childLists(owner).find(({ slot }) => slot.at === spot.at)?.list;
  const inside = childLists(node).flatMap((one) => one.list);
  if (!list || inside.length === 0) return [];
  list.splice(spot.index - 1, 1, ...inside);
  return inside.map((one) => one.id);
}
