import { useEffect, useRef } from 'react';
import { walkNodes } from '@carafe/core/template';
import { store, useAppDispatch } from '../../app/store';
import { deskActions } from './deskSlice';
import { useNodeActions } from './useNodeActions';

/** The keys of the desk, for doing and for showing. */
export const DESK_KEYS: [string, string][] = [
  ['J / K', 'next and previous recipient'],
  ['↑ / ↓', 'previous and next part of the mail'],
  ['Enter', 'edit the selected words in place'],
  ['/', 'add a block after the selection'],
  ['Alt+↑ / Alt+↓', 'move the selection'],
  ['Ctrl+D', 'duplicate the selection'],
  ['Del', 'delete the selection'],
  ['B', 'open or close Because'],
  ['Ctrl+Z / Ctrl+Shift+Z', 'undo and redo'],
  ['Ctrl+K', 'find anything'],
  ['Esc', 'let go of the selection'],
];

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(?:INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** The node before or after the selected one, in reading order. */
function neighbour(by: -1 | 1): string | null {
  const { template, selected } = store.getState().desk;
  if (!template) return null;
  const ids: string[] = [];
  walkNodes(template, ({ node }) => ids.push(node.id));
  const at = selected ? ids.indexOf(selected) : by === 1 ? -1 : ids.length;
  return ids[Math.max(0, Math.min(ids.length - 1, at + by))] ?? null;
}

/** Listens for the desk's keys. What is typed into fields stays there, but for undo and redo. */
export function useDeskKeys(onAdd: () => void): void {
  const dispatch = useAppDispatch();
  const actions = useNodeActions();
  const now = useRef({ actions, onAdd });
  now.current = { actions, onAdd };
  useEffect(() => {
    const withControl = (event: KeyboardEvent): boolean => {
      const key = event.key.toLowerCase();
      const { selected } = store.getState().desk;
      if (key === 'z') dispatch(event.shiftKey ? deskActions.redone() : deskActions.undone());
      else if (key === 'y') dispatch(deskActions.redone());
      else if (key === 'd' && selected && !isTyping(event.target))
        now.current.actions.duplicate(selected);
      else return false;
      return true;
    };
    const plain = (event: KeyboardEvent): boolean => {
      const { selected, index } = store.getState().desk;
      const down = event.key === 'ArrowDown';
      switch (event.key) {
        case 'j':
          dispatch(deskActions.flipped(index + 1));
          return true;
        case 'k':
          dispatch(deskActions.flipped(index - 1));
          return true;
        case 'b':
          dispatch(deskActions.becauseToggled());
          return true;
        case '/':
          now.current.onAdd();
          return true;
        case 'Escape':
          dispatch(deskActions.selected(null));
          return true;
        case 'Delete':
          if (selected && selected !== 'envelope') now.current.actions.remove(selected);
          return true;
        case 'ArrowUp':
        case 'ArrowDown':
          if (event.altKey && selected) now.current.actions.move(selected, down ? 1 : -1);
          else dispatch(deskActions.selected(neighbour(down ? 1 : -1)));
          return true;
        default:
          return false;
      }
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const control = event.ctrlKey || event.metaKey;
      // A search has its own undo; so has nothing else at the desk.
      const own = event.target instanceof Element && event.target.closest('[data-own-undo]');
      const inOverlay =
        event.target instanceof Element && event.target.closest('[role="menu"], [role="dialog"]');
      const done = control
        ? !own && withControl(event)
        : !inOverlay && !isTyping(event.target) && plain(event);
      if (done) event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [dispatch]);
}
