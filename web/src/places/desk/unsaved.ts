import { readTemplate, type Template } from '@carafe/core/template';

/** A template as it was worked on when the page went, and the version that it was made from. */
export interface Unsaved {
  version: number;
  template: Template;
}

const keyOf = (id: string) => `carafe unsaved ${id}`;

/** Keeps in the browser what the server does not have yet; false where there is no room for it. */
export function keepUnsaved(id: string, unsaved: Unsaved): boolean {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(unsaved));
    return true;
  } catch {
    return false; // the browser keeps nothing, or is full
  }
}

export function forgetUnsaved(id: string): void {
  localStorage.removeItem(keyOf(id));
}

/** What was kept of a template; null where nothing was, or what was cannot be read any more. */
export function unsavedOf(id: string): Unsaved | null {
  const text = localStorage.getItem(keyOf(id));
  if (text === null) return null;
  try {
    const { version, template } = JSON.parse(text) as { version: unknown; template: unknown };
    const read = readTemplate(template);
    if (read.ok && typeof version === 'number') return { version, template: read.template };
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
  }
  forgetUnsaved(id);
  return null;
}
