import { useLayoutEffect, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';

export const BAR_SLOT = 'bar-slot';

/** Puts what a place says of what is open into the application's bar. */
export function InBar({ children }: { children: ReactNode }) {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  useLayoutEffect(() => setSlot(document.getElementById(BAR_SLOT)), []);
  return slot && createPortal(children, slot);
}
