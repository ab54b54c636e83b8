import { useHotkeys, type HotkeyItem } from '@mantine/hooks';
import { findNode } from '@carafe/core/template';
import { store, useAppDispatch } from '../../app/store';
import { holdKeys } from '../../parts/holdKeys';
import { deskActions } from './deskSlice';
import { focusMail } from './focusMail';
import { inPlaceField } from './inPlaceField';
import { besideNodes, listedNodes } from './outlineNodes';
import { useNodeActions } from './useNodeActions';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** The keys of the desk, for showing. */
export const DESK_KEYS: [string, string][] = [
  ['J / K', t('nextOrPreviousRecipient')],
  ['↑ / ↓', t('previousOrNextPartOfThe')],
  [t('shiftShift'), t('selectSeveralPartsCtrlAndA')],
  [t('ctrlA'), t('selectEverythingBesideTheSelection')],
  ['Enter', t('editTheSelectionItsTextOr')],
  ['/', t('addABlockAfterTheSelection')],
  ['{{ or / in words', t('insertAFieldFoundByIts')],
  ['C', t('aConditionOnTheSelection')],
  ['E', t('anAlternativeWhenTheConditionIs')],
  [t('altAlt'), t('moveTheSelection')],
  [t('ctrlD'), t('duplicateTheSelection')],
  [t('ctrlCCtrlXCtrlV'), t('copyCutAndPasteBetweenTemplates')],
  [t('ctrlGCtrlShiftG'), t('groupOrUngroupBlocks')],
  ['S', t('moveTheSelectedBlocksToTheir')],
  [t('del'), t('deleteTheSelection')],
  ['B', t('openOrCloseWhy')],
  ['V', t('whatEverybodyGets2')],
  [t('ctrlZCtrlShiftZ'), t('undoAndRedo')],
  [t('ctrlK'), t('findAnything')],
  ['?', t('thisList')],
  [t('esc'), t('returnFromAFieldToThe')],
];

/** The node before or after the selected one, in reading order. */
function neighbour(by: -1 | 1): string | null {
  const { template, selected } = store.getState().desk;
  if (!template) return null;
  // The envelope stands above the first part.
  const ids = ['envelope', ...listedNodes(template).map(({ node }) => node.id)];
  const at = selected ? ids.indexOf(selected) : by === 1 ? -1 : ids.length;
  return ids[Math.max(0, Math.min(ids.length - 1, at + by))] ?? null;
}

/** What has keys of its own. */
const OTHERS =
  '[role="menu"], [role="dialog"], [role="listbox"], [role="tab"], [aria-roledescription="sortable"]';

/** Keys that do nothing where something else has them. */
function outside(run: () => void): (event: KeyboardEvent) => void {
  return (event) => {
    const isOthers = event.target instanceof Element && event.target.closest(OTHERS);
    if (event.defaultPrevented || isOthers) return;
    event.preventDefault();
    run();
  };
}

const FIRST_FIELD =
  '[data-template-form] :is(input:not([type="hidden"]), textarea, [contenteditable="true"])';

/** The first that there is to do about a condition. */
const CONDITION =
  '[data-condition] :is(button[data-add], button, select, [contenteditable="true"])';

/** Whether Enter means the selection: what has the focus is pressed by it, but for the line that is selected. */
function isFree({ target, defaultPrevented }: KeyboardEvent): boolean {
  if (defaultPrevented || !(target instanceof Element) || target.closest(OTHERS)) return false;
  const control = target.closest('button, a, input, textarea, select, [contenteditable="true"]');
  return !control || control.getAttribute('aria-current') === 'true';
}

/** Listens for the desk's keys. What is typed into fields stays there, but for undo and redo. */
export function useDeskKeys({
  onAdd,
  onKeys,
  onEverybody,
}: Record<'onAdd' | 'onKeys' | 'onEverybody', () => void>): void {
  const dispatch = useAppDispatch();
  const { move, duplicate, remove, group, ungroup, section } = useNodeActions();
  const desk = () => store.getState().desk;
  const onSelected = (run: (id: string) => void) => () => {
    const { selected } = desk();
    if (selected && selected !== 'envelope') run(selected);
  };
  const flip = (by: number) => dispatch(deskActions.flipped(desk().index + by));
  const select = (id: string | null) => dispatch(deskActions.selected(id));
  /** Takes one part more into the selection, or the last one out again. */
  const stretch = (by: -1 | 1) => {
    const { selected, also } = desk();
    const next = neighbour(by);
    if (!next || next === selected || [next, selected].includes('envelope')) return;
    const isBack = also.at(-1) === next;
    dispatch(
      deskActions.stretched(isBack ? also : [...also, ...(selected ? [selected] : []), next]),
    );
  };
  const selectAll = () => {
    const { template, selected } = desk();
    if (!template) return;
    const beside = besideNodes(template, selected);
    // Whichever was selected stays the one that the inspector shows.
    const ordered =
      selected && beside.includes(selected)
        ? [...beside.filter((id) => id !== selected), selected]
        : beside;
    dispatch(deskActions.stretched(ordered));
  };
  const own = (keys: string, run: () => void): HotkeyItem => [
    keys,
    outside(run),
    { preventDefault: false },
  ];
  const onEnter = (event: KeyboardEvent) => {
    const { selected, template } = desk();
    const node = template && selected ? findNode(template, selected)?.node : undefined;
    if (!node || !isFree(event)) return;
    event.preventDefault();
    if (inPlaceField(node)) {
      holdKeys({ mayStayShut: true });
      dispatch(deskActions.editing(node.id));
    } else document.querySelector<HTMLElement>(FIRST_FIELD)?.focus();
  };
  const add = () => {
    holdKeys();
    onAdd();
  };
  useHotkeys([
    own('J', () => void flip(1)),
    own('K', () => void flip(-1)),
    own('B', () => void dispatch(deskActions.becauseToggled())),
    // On some keyboards these are typed with shift.
    own('C', () => {
      const control = document.querySelector<HTMLElement>(CONDITION);
      control?.focus();
      if (control?.dataset['add'] !== undefined) control.click();
    }),
    own('E', () => document.querySelector<HTMLElement>('[data-else]')?.click()),
    own('/', add),
    own('Shift+/', add),
    own('V', onEverybody),
    own('?', onKeys),
    own('Shift+?', onKeys),
    ['Enter', onEnter, { preventDefault: false }],
    own('Escape', () => {
      select(null);
      focusMail();
    }),
    own('Delete', () => remove()),
    own('ArrowUp', () => void select(neighbour(-1))),
    own('ArrowDown', () => void select(neighbour(1))),
    own('shift+ArrowUp', () => stretch(-1)),
    own('shift+ArrowDown', () => stretch(1)),
    own('mod+A', selectAll),
    own('alt+ArrowUp', () => move(-1)),
    own('alt+ArrowDown', () => move(1)),
    own('mod+D', () => duplicate()),
    own('S', () => section()),
    own('mod+G', () => group()),
    own('mod+shift+G', onSelected(ungroup)),
  ]);
  // Undoing is one history for everything, also while something is typed.
  useHotkeys(
    [
      ['mod+Z', () => void dispatch(deskActions.undone())],
      ['mod+shift+Z', () => void dispatch(deskActions.redone())],
      ['mod+Y', () => void dispatch(deskActions.redone())],
    ],
    [],
    true,
  );
}
