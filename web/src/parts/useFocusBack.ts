import { useEffect, useLayoutEffect, useRef } from 'react';

/** What had the focus last that stands in no dialog and no menu: those go, and it stays. Null where it was given up. */
let lastOnPage: Element | null = null;
const standsOnPage = (target: EventTarget | null): target is Element =>
  target instanceof Element && !target.closest('[role=dialog], [role=menu]');
if (typeof document !== 'undefined') {
  document.addEventListener('focusin', ({ target }) => {
    if (standsOnPage(target)) lastOnPage = target;
  });
  document.addEventListener('focusout', ({ target, relatedTarget }) => {
    if (relatedTarget === null && standsOnPage(target)) lastOnPage = null;
  });
}

function giveBack(opener: Element | null, closing: Element | null | undefined, path: string): void {
  const { activeElement } = document;
  // Whoever took the focus meanwhile keeps it.
  const isFree = activeElement === null || activeElement === document.body;
  if (!isFree && !closing?.contains(activeElement)) return;
  const hadNothing = opener === document.body;
  const stays = [hadNothing ? null : opener, lastOnPage].find((one) => one?.isConnected);
  if (stays instanceof HTMLElement) stays.focus();
  // Opened by a key while nothing had the focus, it is left to nothing again.
  if (stays || hadNothing || path !== window.location.pathname) return;
  // What opened it is gone, such as a line that was deleted: the work goes on in the place.
  const main = document.querySelector('main');
  main?.setAttribute('tabindex', '-1');
  main?.focus();
}

/** Gives the focus back to where it was when something over the page is closed, also where it is taken away at once. */
export function useFocusBack(isOpen: boolean): void {
  const opener = useRef<Element | null>(null);
  useLayoutEffect(() => {
    if (isOpen) opener.current = document.activeElement;
  }, [isOpen]);
  useEffect(() => {
    if (!isOpen) return;
    const path = window.location.pathname;
    return () => {
      const from = opener.current;
      // What fades out has the focus still.
      const closing = document.activeElement?.closest('[role=dialog]');
      setTimeout(() => giveBack(from, closing, path));
    };
  }, [isOpen]);
}
