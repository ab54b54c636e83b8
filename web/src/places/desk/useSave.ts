import { useCallback, useEffect, useRef } from 'react';
import { notifications } from '@mantine/notifications';
import { api, conflictOf, messageOf } from '../../app/api';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';

const QUIET_MS = 600;

/** Saves follow one another: the next knows the version that the one before it made. */
let queue: Promise<void> = Promise.resolve();
const versions = new Map<string, number>();

/** Resolves when every save that was begun has ended, so that what is read next is the latest. */
export function savesDone(): Promise<void> {
  return queue;
}

/** Saves the template a moment after the last edit; gives a way to try at once. */
export function useSave(): () => void {
  const dispatch = useAppDispatch();
  const { id, version, template, save } = useAppSelector((s) => s.desk);
  const open = useRef(true);
  const saveOne = useCallback(async () => {
    if (!id || !template) return;
    try {
      const from = Math.max(version, versions.get(id) ?? 0);
      const stored = await api.save(id, from, template);
      versions.set(id, stored.version);
      dispatch(deskActions.saved({ id, version: stored.version, template }));
    } catch (error) {
      const conflict = conflictOf(error);
      if (!open.current) {
        const title = `The last edits of “${template.name}” were not saved`;
        notifications.show({ color: 'clay', autoClose: false, title, message: messageOf(error) });
      } else if (conflict) dispatch(deskActions.conflicted(conflict));
      else dispatch(deskActions.saveFailed({ id, message: messageOf(error) }));
    }
  }, [id, version, template, dispatch]);
  const saveNow = useCallback(() => {
    dispatch(deskActions.saving());
    queue = queue.then(saveOne);
    return queue;
  }, [saveOne, dispatch]);

  useEffect(() => {
    if (save !== 'waiting') return undefined;
    const timer = setTimeout(() => void saveNow(), QUIET_MS);
    return () => clearTimeout(timer);
  }, [save, saveNow]);

  // Leaving the desk does not wait for the moment of quiet.
  const leaving = useRef(saveNow);
  const waiting = useRef(save);
  useEffect(() => {
    leaving.current = saveNow;
    waiting.current = save;
  });
  useEffect(
    () => () => {
      open.current = false;
      if (waiting.current === 'waiting') void leaving.current();
    },
    [],
  );
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (waiting.current !== 'saved') event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, []);
  return () => void saveNow();
}
