import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { messageOf } from '../app/ask';
import { wordsOf } from '../words';

const t = wordsOf('parts');

const UNDO_MS = 12_000;
/** What went wrong is read, and perhaps read aloud, before it goes. */
const REFUSED_MS = 20_000;

/** Says why something could not be done, and what to do. */
export function notifyRefused(title: string, message: string): void {
  notifications.show({ color: 'clay', title, message, autoClose: REFUSED_MS });
}

/** Says that something could not be done, in the server's own sentence. */
export function notifyFailure(error: unknown, title = t('nothingWasChanged')): void {
  notifyRefused(title, messageOf(error));
}

/** Says what became of something, in a sentence. */
export function notifyOf(title: string, message: string): void {
  notifications.show({ title, message });
}

/** Says that something was done, with the way back for a while. */
export function notifyUndoable(title: string, undo: () => Promise<unknown>): void {
  const note = notifications.show({
    title,
    autoClose: UNDO_MS,
    message: (
      <Button
        variant="default"
        mt={6}
        onClick={() => {
          notifications.hide(note);
          undo().catch((error: unknown) => notifyFailure(error));
        }}
      >
        {t('undo')}
      </Button>
    ),
  });
}
