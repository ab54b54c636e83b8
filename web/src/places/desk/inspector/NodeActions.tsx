import { memo, useDeferredValue, useMemo, useState } from 'react';
import { ActionIcon, Menu, Tooltip } from '@mantine/core';
import {
  IconArrowDown,
  IconArrowUp,
  IconBoxMultiple,
  IconClipboard,
  IconCopy,
  IconDots,
  IconLayoutRows,
  IconTrash,
} from '@tabler/icons-react';
import { chosenNodes, isBlock } from '@carafe/core/template';
import { useAppSelector } from '../../../app/store';
import { copySelected, keptClip, pasteKept } from '../useClipboard';
import { focusMailIfLost } from '../focusMail';
import { moveTarget, useNodeActions } from '../useNodeActions';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** What can be done with what is selected, as a whole. */
export const NodeActions = memo(function NodeActions() {
  const { move, duplicate, remove } = useNodeActions();
  const template = useDeferredValue(useAppSelector((s) => s.desk.template));
  const selected = useAppSelector((s) => s.desk.selected);
  const also = useAppSelector((s) => s.desk.also);
  const chosen = useMemo(
    () => (template && selected ? chosenNodes(template, [...also, selected]) : []),
    [template, selected, also],
  );
  const cannot = (by: -1 | 1) => {
    const first = chosen.at(by === 1 ? -1 : 0);
    return !template || !first || moveTarget(template, first.id, by) === null;
  };
  const button = (
    label: string,
    ButtonIcon: typeof IconCopy,
    run: () => void,
    disabled = false,
  ) => (
    <Tooltip label={label}>
      <ActionIcon variant="subtle" size="sm" aria-label={label} onClick={run} disabled={disabled}>
        <ButtonIcon size={15} />
      </ActionIcon>
    </Tooltip>
  );
  return (
    <span className={classes.actions}>
      {button('Move up (Alt+↑)', IconArrowUp, () => move(-1), cannot(-1))}
      {button('Move down (Alt+↓)', IconArrowDown, () => move(1), cannot(1))}
      {button('Duplicate (Ctrl+D)', IconCopy, () => duplicate())}
      {button('Delete (Del)', IconTrash, () => remove())}
      <More areBlocks={chosen.every(isBlock)} group={chosen.length === 1 ? chosen[0] : undefined} />
    </span>
  );
});

/** Copies and pastes, between templates too; blocks into a group, a group apart, blocks into a section of their own. */
function More({
  areBlocks,
  group: only,
}: {
  areBlocks: boolean;
  group: { id: string; kind: string } | undefined;
}) {
  const { group, ungroup, section } = useNodeActions();
  const [isOpen, setOpen] = useState(false);
  // What was chosen of the menu takes its button away with it, or another selection does.
  const then = (run: () => void) => () => {
    run();
    requestAnimationFrame(focusMailIfLost);
  };
  return (
    <Menu position="bottom-end" withinPortal={false} opened={isOpen} onChange={setOpen}>
      <Menu.Target>
        <Tooltip label={t('copyPasteGroup')} disabled={isOpen}>
          <ActionIcon variant="subtle" size="sm" aria-label={t('copyPasteGroup')}>
            <IconDots size={15} />
          </ActionIcon>
        </Tooltip>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item
          leftSection={<IconCopy size={15} />}
          rightSection={<span className="quiet">{t('ctrlC')}</span>}
          onClick={then(copySelected)}
        >
          {t('copyForOtherTemplatesToo')}
        </Menu.Item>
        <Menu.Item
          leftSection={<IconClipboard size={15} />}
          rightSection={<span className="quiet">{t('ctrlV')}</span>}
          disabled={keptClip.read() === null}
          onClick={then(pasteKept)}
        >
          {t('pasteBelow')}
        </Menu.Item>
        {areBlocks && <Menu.Divider />}
        {areBlocks && (
          <Menu.Item
            leftSection={<IconBoxMultiple size={15} />}
            rightSection={<span className="quiet">{t('ctrlG')}</span>}
            onClick={then(group)}
          >
            {t('group')}
          </Menu.Item>
        )}
        {only?.kind === 'group' && (
          <Menu.Item
            leftSection={<IconBoxMultiple size={15} />}
            rightSection={<span className="quiet">{t('ctrlShiftG')}</span>}
            onClick={then(() => ungroup(only.id))}
          >
            {t('ungroup')}
          </Menu.Item>
        )}
        {areBlocks && (
          <Menu.Item
            leftSection={<IconLayoutRows size={15} />}
            rightSection={<span className="quiet">S</span>}
            onClick={then(section)}
          >
            {t('moveToItsOwnSection')}
          </Menu.Item>
        )}
      </Menu.Dropdown>
    </Menu>
  );
}
