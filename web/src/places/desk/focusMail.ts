import type { KeyboardEvent } from 'react';

/** Puts the focus on the mail, where the keys of the desk work: nothing that was done loses it. */
export function focusMail(): void {
  document.querySelector<HTMLElement>('[data-mail]')?.focus({ preventScroll: true });
}

/** The same where what had the focus has gone from the page. */
export function focusMailIfLost(): void {
  if (document.activeElement === document.body || document.activeElement === null) focusMail();
}

/** What is held by the keys: Escape puts it down where it was. */
const HELD = '[aria-roledescription="sortable"][aria-pressed="true"]';

/** Fields of the desk, and all that the inspector has. The mail has an Escape of its own. */
const FIELDS =
  ':is([data-template-form], input, textarea, select, [contenteditable="true"]):not([data-mail] *)';

/** Escape leads from a field back to the mail, where the keys of the desk work. */
export function leaveField(event: KeyboardEvent<HTMLElement>): void {
  const { key, defaultPrevented, target, currentTarget } = event;
  // What opens over the page belongs to what it was opened from, and has an Escape of its own.
  if (key !== 'Escape' || defaultPrevented || !currentTarget.contains(target as Node)) return;
  if ((target as Element).closest(HELD) || !(target as Element).closest(FIELDS)) return;
  event.preventDefault();
  focusMail();
}
