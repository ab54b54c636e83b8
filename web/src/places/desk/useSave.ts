import { useCallback, useEffect, useRef } from 'react';
import { api, conflictOf, messageOf } from '../../app/api';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';

const QUIET_MS = 600;

/** Saves the template a moment after the last edit; gives a way to try at once. */
export function useSave(): () => void {
  const dispatch = useAppDispatch();
  const { id, version, template, save } = useAppSelector((s) => s.desk);
  const saveNow = useCallback(async () => {
    if (!id || !template) return;
    dispatch(deskActions.saving());
    try {
      const stored = await api.save(id, version, template);
      dispatch(deskActions.saved({ version: stored.version, template }));
    } catch (error) {
      const conflict = conflictOf(error);
      if (conflict) dispatch(deskActions.conflicted(conflict));
      else dispatch(deskActions.saveFailed(messageOf(error)));
    }
  }, [id, version, template, dispatch]);

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
