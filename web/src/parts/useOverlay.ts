import { useEffect, useId, useRef } from 'react';
import { useFocusBack } from './useFocusBack';

/** What is open over the page, the last one on top. */
const open: string[] = [];

interface Given {
  opened: boolean;
  onClose: () => void;
  closeOnEscape?: boolean;
  returnFocus?: boolean;
}

/**
 * What all dialogs and sheets share: Escape closes the one on top alone, and nothing while it is pressed in what stands over
 * that one, such as a menu of its own; closed, it gives the focus back. Gives the id for its outermost element.
 */
export function useOverlay({
  opened,
  onClose,
  closeOnEscape = true,
  returnFocus = true,
}: Given): string {
  const id = useId();
  const close = useRef(onClose);
  useEffect(() => {
    close.current = onClose;
  });
  useFocusBack(opened && returnFocus);
  useEffect(() => {
    if (!opened) return;
    open.push(id);
    return () => void open.splice(open.lastIndexOf(id), 1);
  }, [opened, id]);
  useEffect(() => {
    if (!opened || !closeOnEscape) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.isComposing || open.at(-1) !== id) return;
      const { target } = event;
      if (target instanceof Element) {
        // A list of choices that is open takes it first.
        if (target.getAttribute('data-mantine-stop-propagation') === 'true') return;
        const own = document.getElementById(id)?.querySelector('[role=dialog]');
        const within = target.closest('[role=dialog]');
        if (within && within !== own) return;
      }
      close.current();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [opened, closeOnEscape, id]);
  return id;
}
