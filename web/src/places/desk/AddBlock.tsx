import { cloneElement, useEffect, useState, type MouseEvent, type ReactElement } from 'react';
import { Combobox, useCombobox } from '@mantine/core';
import {
  BLOCKS,
  insertNode,
  isBlock,
  isTiedToShop,
  kindOf,
  spotForBlock,
  spotForSection,
} from '@carafe/core/template';
import type { NodeKind } from '@carafe/core/blocks';
import type { Shape } from '@carafe/core/shape';
import { useAppDispatch, useAppStore } from '../../app/store';
import { holdKeys } from '../../parts/holdKeys';
import { useFirstOption } from '../../parts/useFirstOption';
import { deskActions } from './deskSlice';
import { focusMail, focusMailIfLost } from './focusMail';
import { inPlaceField } from './inPlaceField';
import { beginAdding, endDrag } from './dragging';
import { KindIcon } from './KindIcon';
import { isSectionKind, madeNode, type AddableKind } from './madeNode';
import { useDesk } from './useDesk';
import { useEdit } from './useEdit';
import classes from './Outline.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Puts a new block after a node (or at the end of a column), and selects it. */
export function useAddBlock() {
  const { change, select } = useEdit();
  const dispatch = useAppDispatch();
  const { shape, whenShaped } = useDesk();
  const store = useAppStore();
  const add = (kind: AddableKind, after: string, known: Shape) => {
    const { template } = store.getState().desk;
    const node = madeNode(kind, known, { template, after });
    change(`Add ${kindOf(node).name.toLowerCase()}`, (draft) => {
      const spot = isBlock(node) ? spotForBlock(draft, after) : spotForSection(draft, after);
      if (spot) insertNode(draft, node, spot);
    });
    select(node.id);
    // What holds words is written at once.
    if (isBlock(node) && inPlaceField(node)?.inPlace === true) {
      holdKeys({ mayStayShut: true });
      dispatch(deskActions.editing(node.id));
    } else focusMail();
  };
  return (kind: AddableKind, after: string) => {
    if (isSectionKind(kind) || !isTiedToShop(kind)) add(kind, after, shape);
    else whenShaped((known) => add(kind, after, known));
  };
}

interface Props {
  /** The node that the new block comes after. */
  after: string;
  children: ReactElement<{ onClick?: (event: MouseEvent) => void }>;
  opened?: boolean;
  onChange?: (opened: boolean) => void;
}

type Addable = Pick<NodeKind, 'name' | 'description' | 'words'> & { kind: AddableKind };
const SECTIONS: readonly Addable[] = [
  { kind: 'section', name: 'Section', description: t('aNewFullWidthSection') },
  ...([t('two'), t('three'), t('four')] as const).map((count, i) => ({
    kind: `section ${(i + 2) as 2 | 3 | 4}` as const,
    name: `${count} columns`,
    description: t('aNewSectionWithColumnsSide'),
    words: ['section', 'layout', t('iColumns', { i: i + 2 })],
  })),
];

/** The kinds that have all the words, those whose name begins with them first. */
function found(asked: string): Addable[] {
  const words = asked.trim().toLowerCase();
  const all: Addable[] = [...Object.values(BLOCKS), ...SECTIONS];
  const told = ({ name, description, words = [] }: Addable) =>
    [name, description, ...words].join(' ').toLowerCase();
  const begins = (text: string) => ` ${text.toLowerCase()}`.includes(` ${words}`);
  // What it is called comes before what else people call it, and that before what is said of it.
  const far = ({ name, words: others = [] }: Addable) =>
    name.toLowerCase().startsWith(words) ? 0 : begins(name) ? 1 : others.some(begins) ? 2 : 3;
  return all
    .filter((one) => words.split(/\s+/).every((word) => told(one).includes(word)))
    .sort((a, b) => far(a) - far(b));
}

/** A list of block kinds to choose from, searched by their names, opened by its child. */
export function AddBlock({ after, children, opened, onChange }: Props) {
  const add = useAddBlock();
  const [own, setOwn] = useState(false);
  const [words, setWords] = useState('');
  const isOpen = opened ?? own;
  const set = onChange ?? setOwn;
  const combobox = useCombobox({
    opened: isOpen,
    onOpenedChange: set,
  });
  const { focusSearchInput, resetSelectedOption } = combobox;
  useEffect(() => {
    if (isOpen) focusSearchInput();
    else {
      resetSelectedOption();
      setWords('');
    }
  }, [isOpen, focusSearchInput, resetSelectedOption]);
  useFirstOption(combobox, words);
  const kinds = found(words);
  // While a block is dragged out of the list, the mail below it can be seen and reached.
  const [isDragged, setIsDragged] = useState(false);
  return (
    <Combobox
      store={combobox}
      width={300}
      position="bottom-start"
      shadow="sm"
      onOptionSubmit={(kind) => {
        set(false);
        add(kind as AddableKind, after);
      }}
      // Left without adding, the focus goes where the keys of the desk work.
      onClose={() => requestAnimationFrame(focusMailIfLost)}
    >
      <Combobox.Target targetType="button">
        {cloneElement(children, {
          onClick: (event: MouseEvent) => {
            event.stopPropagation();
            set(!isOpen);
          },
        })}
      </Combobox.Target>
      <Combobox.Dropdown style={isDragged ? { opacity: 0.15, pointerEvents: 'none' } : {}}>
        {isOpen && (
          <div role="dialog" aria-label={t('addABlock')}>
            <Combobox.Search
              aria-label={t('searchBlocks')}
              placeholder={t('searchBlocks')}
              value={words}
              onChange={({ currentTarget: { value } }) => setWords(value)}
            />
            <Combobox.Options
              aria-label={t('blocks')}
              tabIndex={0}
              mah={420}
              style={{ overflow: 'auto' }}
            >
              {kinds.map(({ kind, name, description }) => (
                <Combobox.Option key={kind} value={kind}>
                  {/* The list takes presses for itself; what is dragged keeps its own. */}
                  <span
                    className={classes.addable}
                    draggable
                    onMouseDown={(event) => event.stopPropagation()}
                    onDragStart={({ dataTransfer }) => {
                      beginAdding(kind, dataTransfer);
                      // What the pointer takes along is drawn before the list fades.
                      setTimeout(() => setIsDragged(true));
                    }}
                    onDragEnd={() => {
                      endDrag();
                      setIsDragged(false);
                      set(false);
                    }}
                  >
                    <KindIcon kind={isSectionKind(kind) ? 'section' : kind} />
                    <span>
                      {name} <span className="quiet">{description}</span>
                    </span>
                  </span>
                </Combobox.Option>
              ))}
              {kinds.length === 0 && (
                <Combobox.Empty>{t('noBlockMatchesWordsTryAnother', { words })}</Combobox.Empty>
              )}
            </Combobox.Options>
          </div>
        )}
      </Combobox.Dropdown>
    </Combobox>
  );
}
