import { useEffect, useState } from 'react';
import { Button, Group, Text } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { useNavigate } from 'react-router';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';
import { Differences } from './Differences';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Who is typing when the dialog comes up types on: it asks once the keys have rested so long. */
const PAUSE_MS = 800;

/**
 * A stale save. Both versions are kept until one is chosen, and what is chosen can be undone. The dialog
 * takes the focus only after a pause, and on the choice that changes nothing.
 */
export function ConflictDialog() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const conflict = useAppSelector((s) => s.desk.conflict);
  // Only beside a conflict: what is written draws no dialog anew.
  const template = useAppSelector((s) => (s.desk.conflict ? s.desk.template : null));
  const [createTemplate] = api.useCreateTemplateMutation();
  const [closed, setClosed] = useState<typeof conflict>(null);
  const [ready, setReady] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const isOpen = conflict !== null && conflict !== closed;
  useEffect(() => {
    setReady(false);
    if (!isOpen) return undefined;
    let timer = setTimeout(() => setReady(true), PAUSE_MS);
    const later = () => {
      clearTimeout(timer);
      timer = setTimeout(() => setReady(true), PAUSE_MS);
    };
    document.addEventListener('keydown', later);
    return () => {
      clearTimeout(timer);
      document.removeEventListener('keydown', later);
    };
  }, [isOpen]);
  if (!conflict || !template) return null;
  const settle = (which: 'theirs' | 'mine') => dispatch(deskActions.settled(which));
  const keepBoth = async () => {
    try {
      const name = `${conflict.template.name} (other version)`.slice(0, 200);
      await createTemplate({ template: { ...conflict.template, name } }).unwrap();
      settle('mine');
      await navigate('.', { replace: true });
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  if (!isOpen)
    return (
      <div className={classes.unsettled} role="status">
        {t('changedElsewhereYourEditsAreKept')}
        <Button size="compact-xs" variant="default" onClick={() => setClosed(null)}>
          {t('resolve')}
        </Button>
      </div>
    );
  return (
    <Dialog
      opened
      onClose={() => setClosed(conflict)}
      title={t('thisTemplateWasChangedElsewhere')}
      size="lg"
      trapFocus={ready}
      returnFocus={false}
    >
      <Text size="sm">{t('somebodyElseSavedItWhileYou')}</Text>
      <Differences
        mine={template}
        theirs={conflict.template}
        title={t('howTheOtherVersionDiffers')}
        only={{ mine: t('onlyInYours'), theirs: t('onlyInTheOtherVersion') }}
      />
      {problem && (
        <Text size="sm" c="var(--attention)" mt={8} role="alert">
          {problem}
        </Text>
      )}
      <Group mt={16} gap={8} justify="flex-end">
        <Button variant="default" disabled={!ready} onClick={() => settle('theirs')}>
          {t('useTheOtherVersion')}
        </Button>
        <Button variant="default" disabled={!ready} onClick={() => settle('mine')}>
          {t('useMyVersion')}
        </Button>
        <Button variant="default" disabled={!ready} onClick={() => void keepBoth()}>
          {t('useMineKeepTheOtherAs')}
        </Button>
        <Button
          key={String(ready)}
          disabled={!ready}
          data-autofocus
          onClick={() => setClosed(conflict)}
        >
          {t('decideLater')}
        </Button>
      </Group>
    </Dialog>
  );
}
