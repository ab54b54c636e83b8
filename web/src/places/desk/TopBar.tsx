import { ActionIcon, Button, Group, Tooltip } from '@mantine/core';
import {
  IconAlertTriangle,
  IconArrowBackUp,
  IconArrowForwardUp,
  IconCheck,
  IconKeyboard,
} from '@tabler/icons-react';
import { InBar } from '../../app/BarSlot';
import { useAppDispatch, useAppSelector, useDeskState } from '../../app/store';
import { deskActions } from './deskSlice';
import { useEveryone } from './everyone/useSurvey';
import { Lately } from './Lately';
import { usePublishState } from './usePublishState';
import { useSave } from './useSave';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

interface Props {
  onKeys: () => void;
  onTest: () => void;
  onPublish: () => void;
}

/** The name of the template, how it stands, and what is done with the whole of it. */
export function TopBar({ onKeys, onTest, onPublish }: Props) {
  const name = useAppSelector(({ desk }) => desk.template?.name);
  return (
    <InBar>
      <div className={classes.top}>
        <h1 className={classes.name} title={name}>
          {name}
        </h1>
        <SaveState />
        <PublishState />
        <Lately />
        <Group gap={4} ml="auto" wrap="nowrap" flex="none" className={classes.steps}>
          <UndoRedo />
          <EverybodyButton />
          <Button variant="subtle" size="compact-sm" onClick={onTest}>
            {t('sendATest')}
          </Button>
          <Button variant="white" size="compact-sm" className={classes.publish} onClick={onPublish}>
            {t('publish')}
          </Button>
          <Tooltip label={t('keyboardShortcuts2')}>
            <ActionIcon variant="subtle" aria-label={t('keyboardShortcuts')} onClick={onKeys}>
              <IconKeyboard size={17} />
            </ActionIcon>
          </Tooltip>
        </Group>
      </div>
    </InBar>
  );
}

function UndoRedo() {
  const dispatch = useAppDispatch();
  const undoLabel = useAppSelector((s) => s.desk.history.past.at(-1)?.label);
  const redoLabel = useAppSelector((s) => s.desk.history.future[0]?.label);
  return (
    <>
      <Tooltip label={undoLabel ? t('undoUndoLabel', { undoLabel }) : t('nothingToUndo')}>
        <ActionIcon
          variant="subtle"
          aria-label={t('undo')}
          disabled={!undoLabel}
          onClick={() => dispatch(deskActions.undone())}
        >
          <IconArrowBackUp size={17} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label={redoLabel ? t('redoRedoLabel', { redoLabel }) : t('nothingToRedo')}>
        <ActionIcon
          variant="subtle"
          aria-label={t('redo')}
          disabled={!redoLabel}
          onClick={() => dispatch(deskActions.redone())}
        >
          <IconArrowForwardUp size={17} />
        </ActionIcon>
      </Tooltip>
    </>
  );
}

function EverybodyButton() {
  const { open, setOpen } = useEveryone();
  return (
    <Tooltip label={t('variantsChecksAndWhatAnEdit')}>
      <Button variant="subtle" size="compact-sm" aria-pressed={open} onClick={() => setOpen(!open)}>
        {t('whatEverybodyGets')}
      </Button>
    </Tooltip>
  );
}

/** How the draft stands to what is published. */
function PublishState() {
  const state = usePublishState();
  return state && <span className={classes.save}>{state}</span>;
}

/** Saves what is edited, and tells how that stands. */
function SaveState() {
  const onRetry = useSave();
  const { save, saveMessage } = useDeskState('save', 'saveMessage');
  return (
    <span className={classes.save} role="status" data-testid="save-state" data-state={save}>
      {save === 'saved' && (
        <>
          <IconCheck size={14} /> {t('saved')}
        </>
      )}
      {(save === 'waiting' || save === 'saving') && t('saving')}
      {save === 'conflict' && (
        <>
          <IconAlertTriangle size={14} /> {t('changedElsewhere')}
        </>
      )}
      {save === 'failed' && (
        <>
          <IconAlertTriangle size={14} color="#f4dacf" />
          <span className={classes.why} title={saveMessage ?? ''}>
            {t('notSavedSaveMessage', { saveMessage })}
          </span>
          <Button variant="subtle" size="compact-xs" onClick={onRetry}>
            {t('tryAgain')}
          </Button>
        </>
      )}
    </span>
  );
}
