import { cloneElement, type MouseEvent, type ReactElement } from 'react';
import { Menu } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import { nanoid } from 'nanoid';
import {
  BLOCKS,
  insertNode,
  newBlock,
  newSection,
  siblingsOf,
  type BlockKind,
  type Template,
} from '@carafe/core/template';
import type { Shape } from '@carafe/core/shape';
import { KIND_ICON } from './kinds';
import { useDesk } from './useDesk';
import { useEdit } from './useEdit';

const newId = () => nanoid(8);

/** Cards are tied to the first catalog that there is. */
function firstCatalog(shape: Shape): string | null {
  const catalog = shape.kind === 'record' ? shape.fields['catalog']?.shape : undefined;
  const name = catalog?.kind === 'record' ? Object.keys(catalog.fields)[0] : undefined;
  return name === undefined ? null : `catalog.${name}`;
}

/** Puts a new block after a node (or at the end of a column), and selects it. */
export function useAddBlock() {
  const { change, select } = useEdit();
  const { shape } = useDesk();
  return (kind: BlockKind | 'section', after: string) => {
    const block =
      kind === 'section' ? newSection(newId, [newBlock('text', newId)]) : newBlock(kind, newId);
    const list = firstCatalog(shape);
    if (block.kind === 'cards' && list) block.items.list = list;
    change(`Add ${kind === 'section' ? 'a section' : BLOCKS[kind].name.toLowerCase()}`, (draft) => {
      if (block.kind === 'section') {
        const index = draft.sections.findIndex((s) => s.id === sectionOf(draft, after));
        insertNode(draft, block, { parent: null, index: index + 1 });
        return;
      }
      const place = siblingsOf(draft, after);
      const node = place?.list[place.index];
      if (node?.kind === 'column')
        insertNode(draft, block, { parent: node.id, index: node.blocks.length });
      else if (place?.parent?.kind === 'column')
        insertNode(draft, block, { parent: place.parent.id, index: place.index + 1 });
      else if (node?.kind === 'section' && node.columns[0])
        insertNode(draft, block, {
          parent: node.columns[0].id,
          index: node.columns[0].blocks.length,
        });
    });
    select(block.id);
  };
}

/** The section that a node stands in. */
function sectionOf(template: Template, id: string): string | undefined {
  return template.sections.find(
    (s) => s.id === id || s.columns.some((c) => c.id === id || c.blocks.some((b) => b.id === id)),
  )?.id;
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
  const isOpen = opened ?? own;
  const set = onChange ?? ((to: boolean) => (to ? open() : close()));
  return (
    <Menu opened={isOpen} onChange={set} position="bottom-start" width={280} trapFocus returnFocus>
      <Menu.Target>
        {cloneElement(children, {
          onClick: (event: MouseEvent) => {
            event.stopPropagation();
            set(!isOpen);
          },
        })}
      </Menu.Target>
      <Menu.Dropdown>
        {Object.values(BLOCKS).map(({ kind, name, says }) => {
          const KindIcon = KIND_ICON[kind];
          return (
            <Menu.Item
              key={kind}
              leftSection={<KindIcon size={16} />}
              onClick={() => add(kind, after)}
            >
              {name}
              <span className="quiet"> {says}</span>
            </Menu.Item>
          );
        })}
        <Menu.Divider />
        <Menu.Item
          leftSection={<KIND_ICON.section size={16} />}
          onClick={() => add('section', after)}
        >
          Section <span className="quiet">A new band across the mail.</span>
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
