import { cloneElement, useState, type MouseEvent, type ReactElement } from 'react';
import { Menu } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import { nanoid } from 'nanoid';
import {
  BLOCKS,
  insertNode,
  newBlock,
  newSection,
  spotForBlock,
  spotForSection,
  type Block,
  type BlockKind,
  type ShopSources,
} from '@carafe/core/template';
import { fieldNamed, type Shape } from '@carafe/core/shape';
import { useAppDispatch } from '../../app/store';
import { deskActions } from './deskSlice';
import { focusMail } from './focusMail';
import { inPlaceField } from './inPlaceField';
import { KindIcon } from './KindIcon';
import { useDesk } from './useDesk';
import { useEdit } from './useEdit';

const newId = () => nanoid(8);

/** What the shop has that a new block can be tied to, by the shape of its records. */
function sourcesOf(shape: Shape): ShopSources {
  const namesIn = (root: string) => {
    const found = fieldNamed(shape, root)?.shape;
    return found?.kind === 'record' ? Object.keys(found.fields) : [];
  };
  return { catalogs: namesIn('catalog'), feeds: namesIn('feeds'), coupons: namesIn('coupon') };
}

/** Puts a new block after a node (or at the end of a column), and selects it. */
export function useAddBlock() {
  const { change, select } = useEdit();
  const dispatch = useAppDispatch();
  const { shape } = useDesk();
  return (kind: BlockKind | 'section', after: string) => {
    if (kind === 'section') {
      const section = newSection(newId, [newBlock('text', newId)]);
      change('Add a section', (draft) => {
        const spot = spotForSection(draft, after);
        if (spot) insertNode(draft, section, spot);
      });
      select(section.id);
      focusMail();
      return;
    }
    const block: Block = newBlock(kind, newId, sourcesOf(shape));
    change(`Add ${BLOCKS[kind].name.toLowerCase()}`, (draft) => {
      const spot = spotForBlock(draft, after);
      if (spot) insertNode(draft, block, spot);
    });
    select(block.id);
    // What holds words is written at once.
    if (inPlaceField(block)) dispatch(deskActions.editing(block.id));
    else focusMail();
  };
}

interface Props {
  /** The node that the new block comes after. */
  after: string;
  children: ReactElement<{ onClick?: (event: MouseEvent) => void }>;
  opened?: boolean;
  onChange?: (opened: boolean) => void;
}

/** A list of block kinds to choose from, opened by its child. */
export function AddBlock({ after, children, opened, onChange }: Props) {
  const add = useAddBlock();
  const [own, { open, close }] = useDisclosure();
  // The focus goes back to where it came from, but where a block was added.
  const [added, setAdded] = useState(false);
  const put = (kind: BlockKind | 'section') => {
    setAdded(true);
    add(kind, after);
  };
  const isOpen = opened ?? own;
  const set = onChange ?? ((to: boolean) => (to ? open() : close()));
  return (
    <Menu
      opened={isOpen}
      onChange={set}
      onOpen={() => setAdded(false)}
      position="bottom-start"
      width={280}
      trapFocus
      returnFocus={!added}
    >
      <Menu.Target>
        {cloneElement(children, {
          onClick: (event: MouseEvent) => {
            event.stopPropagation();
            set(!isOpen);
          },
        })}
      </Menu.Target>
      <Menu.Dropdown>
        {Object.values(BLOCKS).map(({ kind, name, description }) => {
          return (
            <Menu.Item key={kind} leftSection={<KindIcon kind={kind} />} onClick={() => put(kind)}>
              {name}
              <span className="quiet"> {description}</span>
            </Menu.Item>
          );
        })}
        <Menu.Divider />
        <Menu.Item leftSection={<KindIcon kind="section" />} onClick={() => put('section')}>
          Section <span className="quiet">A new band across the mail.</span>
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
