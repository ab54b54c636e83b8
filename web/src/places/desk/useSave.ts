import { useCallback, useEffect, useRef } from 'react';
import { notifications } from '@mantine/notifications';
import { Conflict, ENDPOINTS } from '@carafe/contract';
import { readTemplate } from '@carafe/core/template';
import { ask, messageOf, RequestFailed } from '../../app/ask';
import { useAppDispatch, useDeskState } from '../../app/store';
import { deskActions, type SaveConflict } from './deskSlice';
import { forgetUnsaved, keepUnsaved, type Unsaved } from './unsaved';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

const QUIET_MS = 600;

/** Saves follow one another: the next knows the version that the one before it made. */
let queue: Promise<void> = Promise.resolve();
const versions = new Map<string, number>();

/** Resolves when every save that was begun has ended, so that what is read next is the latest. */
export function savesDone(): Promise<void> {
  return queue;
}

/** What is stored now, where a save was refused because it was stale. */
export function conflictOf(error: unknown): SaveConflict | null {
  if (!(error instanceof RequestFailed) || error.refused.status !== 409) return null;
  const read = Conflict.safeParse(error.refused.body);
  const template = read.success ? readTemplate(read.data.current.template) : null;
  return read.success && template?.ok
    ? { version: read.data.current.version, template: template.template }
    : null;
}

/** Saves the template a moment after the last edit; gives a way to try at once. */
export function useSave(): () => void {
  const dispatch = useAppDispatch();
  const { id, version, template, save } = useDeskState('id', 'version', 'template', 'save');
  const open = useRef(true);
  const saveOne = useCallback(async () => {
    if (!id || !template) return;
    try {
      const from = Math.max(version, versions.get(id) ?? 0);
      const asked = { params: { id }, body: { version: from, template } };
      const stored = await ask(ENDPOINTS.saveTemplate, asked);
      versions.set(id, stored.version);
      forgetUnsaved(id);
      dispatch(deskActions.saved({ id, version: stored.version, template }));
    } catch (error) {
      const conflict = conflictOf(error);
      if (!open.current) {
        const title = t('theLastEditsOfNameWere', { name: template.name });
        notifications.show({ color: 'clay', autoClose: false, title, message: messageOf(error) });
      } else if (conflict) {
        dispatch(deskActions.conflicted({ id, conflict }));
      } else dispatch(deskActions.saveFailed({ id, message: messageOf(error) }));
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
  const kept = useRef<(Unsaved & { id: string }) | null>(null);
  useEffect(() => {
    leaving.current = saveNow;
    waiting.current = save;
    kept.current = id && template ? { id, version, template } : null;
  });
  useEffect(() => {
    open.current = true;
    return () => {
      open.current = false;
      if (waiting.current === 'waiting') void leaving.current();
    };
  }, []);
  useEffect(() => {
    // What the server does not have yet stays in the browser until it has: a reload loses no word.
    const keep = (event: Event) => {
      const now = kept.current;
      if (!now || waiting.current === 'saved') return;
      // What a document has no room for could not be read again: who leaves is asked first.
      const isKept = keepUnsaved(now.id, now) && readTemplate(now.template).ok;
      if (!isKept && event.type === 'beforeunload') event.preventDefault();
    };
    window.addEventListener('beforeunload', keep);
    window.addEventListener('pagehide', keep);
    return () => {
      window.removeEventListener('beforeunload', keep);
      window.removeEventListener('pagehide', keep);
    };
  }, []);
  return () => void saveNow();
}
