/** Puts the focus on the mail, where the keys of the desk work: nothing that was done loses it. */
export function focusMail(): void {
  document.querySelector<HTMLElement>('[data-mail]')?.focus({ preventScroll: true });
}

/** The same where what had the focus has gone from the page. */
export function focusMailIfLost(): void {
  if (document.activeElement === document.body || document.activeElement === null) focusMail();
}
