import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Button, Loader } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { placeAtEnd } from '@carafe/core/template';
import { useDisclosure } from '@mantine/hooks';
import { useParams } from 'react-router';
import { useAppDispatch, useAppSelector, useDeskState } from '../../app/store';
import { AddBlock } from './AddBlock';
import { Because } from './Because';
import { Canvas } from './Canvas';
import { ConflictDialog } from './ConflictDialog';
import { deskActions, type DeskAsk } from './deskSlice';
import { leaveField } from './focusMail';
import { Everyone } from './everyone/Everyone';
import { EveryoneProvider, useEveryone } from './everyone/useSurvey';
import { Inspector } from './inspector/Inspector';
import { Outline } from './Outline';
import { Publish } from './Publish';
import { SendTest } from './SendTest';
import { useClipboard } from './useClipboard';
import { DESK_KEYS, useDeskKeys } from './useDeskKeys';
import { DeskProvider } from './useDesk';
import { useOpening } from './useOpening';
import { TopBar } from './TopBar';
import { WhoBar } from './WhoBar';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Where a template is made: who, outline, canvas, inspector, because. */
export function Desk() {
  const { id = '' } = useParams();
  const { opened, problem } = useOpening(id);
  if (problem) {
    return (
      <div className={classes.empty} role="alert">
        <p>{problem}</p>
        <Button component="a" href="/" variant="default">
          {t('backToTheTemplates')}
        </Button>
      </div>
    );
  }
  if (!opened) {
    return (
      <div className={classes.empty}>
        <Loader size="sm" /> {t('openingTheTemplate')}
      </div>
    );
  }
  return (
    <DeskProvider key={id}>
      <EveryoneProvider>
        <OpenDesk />
      </EveryoneProvider>
    </DeskProvider>
  );
}

function OpenDesk() {
  const { becauseOpen, selected } = useDeskState('becauseOpen', 'selected');
  // Not the whole template: what is written in it draws only what shows it.
  const name = useAppSelector(({ desk }) => desk.template?.name);
  const isPart = selected !== null && selected !== 'envelope';
  const after = useAppSelector(({ desk }) =>
    isPart || !desk.template ? selected : placeAtEnd(desk.template),
  );
  // The mail first: what stands beside it is drawn while it is filled.
  const isMailAsked = useDeferredValue(true, false);
  const [adding, setAdding] = useState(false);
  // Where there is no room for all, one of the panels stands above the mail, or none.
  const [panel, setPanel] = useState<Panel>('none');
  const [publishing, { open: openPublish, close: closePublish }] = useDisclosure();
  const [test, { open: openTest, close: closeTest }] = useDisclosure();
  const [keys, { open: openKeys, close: closeKeys }] = useDisclosure();
  useClipboard();
  const everyone = useEveryone();
  const { open: isOpen, setOpen } = everyone;
  const [wasOpen, setWasOpen] = useState(isOpen);
  // What everybody gets stands in the place of the inspector: asked for, it is unfolded.
  if (wasOpen !== isOpen) {
    setWasOpen(isOpen);
    setPanel(isOpen ? 'inspector' : 'none');
  }
  const does: Record<DeskAsk, () => void> = {
    add: () => setAdding(true),
    everybody: () => setOpen(!isOpen),
    test: openTest,
    publish: openPublish,
    keys: openKeys,
  };
  useDeskKeys({ onAdd: does.add, onKeys: does.keys, onEverybody: does.everybody });
  useAsked(does);
  useEffect(() => {
    document.title = t('nameCarafe', { name: name ?? t('template') });
  }, [name]);
  return (
    <main
      className={classes.desk}
      onKeyDown={leaveField}
      data-because={becauseOpen || undefined}
      data-panel={panel}
      data-everyone={everyone.open || undefined}
    >
      <TopBar onKeys={openKeys} onTest={openTest} onPublish={openPublish} />
      <div className={classes.who}>
        <WhoBar />
      </div>
      <Panels shown={panel} onShow={setPanel} second={isOpen ? 'Everybody' : 'Inspector'} />
      {isMailAsked ? <Outline /> : <div />}
      <Canvas />
      {isMailAsked ? everyone.open ? <Everyone /> : <Inspector /> : <div />}
      {becauseOpen && <Because />}
      {after && (
        <div className={classes.adder}>
          <AddBlock after={after} opened={adding} onChange={setAdding}>
            <button type="button" className="only-read" tabIndex={-1}>
              {t('addABlock')}
            </button>
          </AddBlock>
        </div>
      )}
      <ConflictDialog />
      <Keys opened={keys} onClose={closeKeys} />
      {test && <SendTest onClose={closeTest} />}
      {publishing && <Publish onClose={closePublish} />}
    </main>
  );
}

/** Does what was asked for by name from elsewhere. */
function useAsked(does: Record<DeskAsk, () => void>): void {
  const dispatch = useAppDispatch();
  const asked = useAppSelector((s) => s.desk.asked);
  const now = useRef(does);
  useEffect(() => {
    now.current = does;
  });
  useEffect(() => {
    if (asked === null) return;
    dispatch(deskActions.asked(null));
    now.current[asked]();
  }, [asked, dispatch]);
}

type Panel = 'outline' | 'inspector' | 'none';

interface PanelsProps {
  shown: Panel;
  onShow: (panel: Panel) => void;
  /** What stands in the place of the inspector. */
  second: string;
}

/** On a narrow page: which panel is unfolded. */
function Panels({ shown, onShow, second }: PanelsProps) {
  return (
    <div className={classes.panels} role="group" aria-label={t('panels')}>
      {(['outline', 'inspector'] as const).map((panel) => (
        <Button
          key={panel}
          size="compact-sm"
          variant={shown === panel ? 'light' : 'subtle'}
          aria-expanded={shown === panel}
          onClick={() => onShow(shown === panel ? 'none' : panel)}
        >
          {panel === 'outline' ? t('outline') : second}
        </Button>
      ))}
    </div>
  );
}

function Keys({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  return (
    <Dialog opened={opened} onClose={onClose} title={t('keyboardShortcuts')} size="sm">
      <dl className={classes.keys}>
        {DESK_KEYS.map(([key, description]) => (
          <div key={key}>
            <dt>{key}</dt>
            <dd>{description}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
