import { useEffect, useState } from 'react';
import { ActionIcon, Button, Group, Loader, Modal, Text, Tooltip } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import {
  IconAlertTriangle,
  IconArrowBackUp,
  IconArrowForwardUp,
  IconCheck,
  IconKeyboard,
} from '@tabler/icons-react';
import { useNavigate, useParams } from 'react-router';
import { dataRead } from '@carafe/core/check';
import { readTemplate } from '@carafe/core/template';
import { api, messageOf } from '../../app/api';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { AddBlock } from './AddBlock';
import { Because } from './Because';
import { Canvas } from './Canvas';
import { deskActions } from './deskSlice';
import { Inspector } from './inspector/Inspector';
import { Lately } from './Lately';
import { Outline } from './Outline';
import { DESK_KEYS, useDeskKeys } from './useDeskKeys';
import { DeskProvider } from './useDesk';
import { savesDone, useSave } from './useSave';
import { WhoBar } from './WhoBar';
import classes from './Desk.module.css';

/** Where a template is made: who, outline, canvas, inspector, because. */
export function Desk() {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  // Not what the store still holds from before: that is read anew, and the desk starts with it.
  const [openedId, setOpenedId] = useState<string | null>(null);
  const opened = openedId === id;
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    setProblem(null);
    savesDone()
      .then(() => api.template(id))
      .then((stored) => {
        if (!current) return;
        const read = readTemplate(stored.template);
        if (!read.ok) {
          const [first] = read.problems;
          setProblem(`This template cannot be read. ${first?.path ?? ''} ${first?.message ?? ''}`);
          return;
        }
        const reads = dataRead(read.template);
        const having = reads.includes('cart') ? 'cart' : reads.includes('order') ? 'order' : 'all';
        dispatch(deskActions.opened({ stored: { ...stored, template: read.template }, having }));
        setOpenedId(id);
      })
      .catch((error: unknown) => current && setProblem(messageOf(error)));
    return () => {
      current = false;
    };
  }, [id, dispatch]);
  if (problem) {
    return (
      <div className={classes.empty} role="alert">
        <p>{problem}</p>
        <Button component="a" href="/" variant="default">
          Back to the templates
        </Button>
      </div>
    );
  }
  if (!opened) {
    return (
      <div className={classes.empty}>
        <Loader size="sm" /> Opening the template …
      </div>
    );
  }
  return (
    <DeskProvider key={id}>
      <OpenDesk />
    </DeskProvider>
  );
}

function OpenDesk() {
  const { becauseOpen, selected, template } = useAppSelector((s) => s.desk);
  const saveNow = useSave();
  const [adding, setAdding] = useState(false);
  const last = template?.sections[0]?.columns[0]?.id;
  const after = selected && selected !== 'envelope' ? selected : last;
  useDeskKeys(() => setAdding(true));
  useEffect(() => {
    document.title = `${template?.name ?? 'Template'} · Carafe`;
  }, [template?.name]);
  return (
    <main className={classes.desk} data-because={becauseOpen || undefined}>
      <div className={classes.top}>
        <h1 className={classes.name}>{template?.name}</h1>
        <SaveState onRetry={saveNow} />
        <Lately />
        <Steps />
      </div>
      <div className={classes.who}>
        <WhoBar />
      </div>
      <Outline />
      <Canvas />
      <Inspector />
      {becauseOpen && <Because />}
      {after && (
        <div className={classes.adder}>
          <AddBlock after={after} opened={adding} onChange={setAdding}>
            <button type="button" className="only-read" tabIndex={-1}>
              Add a block
            </button>
          </AddBlock>
        </div>
      )}
      <ConflictDialog />
    </main>
  );
}

/** Undo, redo, and the keys. */
function Steps() {
  const dispatch = useAppDispatch();
  const { past, future } = useAppSelector((s) => s.desk.history);
  const [keys, { open, close }] = useDisclosure();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        (event.target.isContentEditable || /INPUT|TEXTAREA/.test(event.target.tagName));
      if (event.key === '?' && !typing) open();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [open]);
  const undoSays = past.at(-1)?.says;
  const redoSays = future[0]?.says;
  return (
    <Group gap={2} ml="auto">
      <Tooltip label={undoSays ? `Undo: ${undoSays}` : 'Nothing to undo'}>
        <ActionIcon
          variant="subtle"
          aria-label="Undo"
          disabled={!undoSays}
          onClick={() => dispatch(deskActions.undone())}
        >
          <IconArrowBackUp size={17} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label={redoSays ? `Redo: ${redoSays}` : 'Nothing to redo'}>
        <ActionIcon
          variant="subtle"
          aria-label="Redo"
          disabled={!redoSays}
          onClick={() => dispatch(deskActions.redone())}
        >
          <IconArrowForwardUp size={17} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label="Keys (?)">
        <ActionIcon variant="subtle" aria-label="Keys of this screen" onClick={open}>
          <IconKeyboard size={17} />
        </ActionIcon>
      </Tooltip>
      <Modal opened={keys} onClose={close} title="Keys of the desk" size="sm">
        <dl className={classes.keys}>
          {DESK_KEYS.map(([key, says]) => (
            <div key={key}>
              <dt>{key}</dt>
              <dd>{says}</dd>
            </div>
          ))}
        </dl>
      </Modal>
    </Group>
  );
}

function SaveState({ onRetry }: { onRetry: () => void }) {
  const { save, saveMessage } = useAppSelector((s) => s.desk);
  return (
    <span className={classes.save} role="status" data-testid="save-state" data-state={save}>
      {save === 'saved' && (
        <>
          <IconCheck size={14} /> Saved
        </>
      )}
      {(save === 'waiting' || save === 'saving') && 'Saving …'}
      {save === 'conflict' && (
        <>
          <IconAlertTriangle size={14} /> Changed elsewhere
        </>
      )}
      {save === 'failed' && (
        <>
          <IconAlertTriangle size={14} color="var(--attention)" /> Not saved: {saveMessage}
          <Button variant="subtle" size="compact-xs" onClick={onRetry}>
            Try again
          </Button>
        </>
      )}
    </span>
  );
}

/** A stale save: what was made here and what is stored are both kept until one is chosen. */
function ConflictDialog() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { conflict, template } = useAppSelector((s) => s.desk);
  const [problem, setProblem] = useState<string | null>(null);
  if (!conflict || !template) return null;
  const copy = async () => {
    try {
      const stored = await api.create({
        template: { ...template, name: `${template.name} (my version)` },
      });
      dispatch(deskActions.settled('theirs'));
      await navigate(`/templates/${stored.id}`);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <Modal
      opened
      onClose={() => undefined}
      withCloseButton={false}
      title="This template was changed elsewhere"
      size="md"
    >
      <Text size="sm">
        Somebody saved it while you were working. Nothing is lost: what you made is still here, and
        so is what they saved.
      </Text>
      {problem && (
        <Text size="sm" c="var(--attention)" mt={8} role="alert">
          {problem}
        </Text>
      )}
      <Group mt={16} gap={8} justify="flex-end">
        <Button variant="default" onClick={() => dispatch(deskActions.settled('theirs'))}>
          Take theirs
        </Button>
        <Button variant="default" onClick={() => dispatch(deskActions.settled('mine'))}>
          Put mine over it
        </Button>
        <Button onClick={() => void copy()}>Keep mine as a copy</Button>
      </Group>
    </Modal>
  );
}
