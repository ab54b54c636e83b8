import { apply, takeBack, type Edit } from './edit';
import type { Template } from './schema';

/** What can be undone and redone. A value: every step gives a new one. */
export interface History {
  past: readonly Edit[];
  future: readonly Edit[];
  /** When the latest edit was made, in milliseconds; decides what becomes one. */
  at: number;
}

export const NO_HISTORY: History = { past: [], future: [], at: 0 };
const TOGETHER_MS = 1_200;

/** Adds an edit. One with the same key soon after the last is joined to it. */
export function remember(history: History, edit: Edit, now: number): History {
  const last = history.past.at(-1);
  const joins = last?.key !== undefined && last.key === edit.key && now - history.at < TOGETHER_MS;
  const joined: Edit =
    joins && last
      ? {
          ...edit,
          patches: [...last.patches, ...edit.patches],
          inverse: [...edit.inverse, ...last.inverse],
          ...(last.selection && { selection: last.selection }),
        }
      : edit;
  const past = joins ? history.past.slice(0, -1) : history.past;
  return { past: [...past, joined], future: [], at: now };
}

export interface Stepped {
  template: Template;
  history: History;
  edit: Edit;
}

/** Takes the latest edit back; null when there is none. */
export function undo(template: Template, history: History): Stepped | null {
  const edit = history.past.at(-1);
  if (!edit) return null;
  return {
    template: takeBack(template, edit),
    edit,
    history: { past: history.past.slice(0, -1), future: [edit, ...history.future], at: 0 },
  };
}

/** Makes the edit that was last taken back again; null when there is none. */
export function redo(template: Template, history: History): Stepped | null {
  const [edit, ...future] = history.future;
  if (!edit) return null;
  return {
    template: apply(template, edit),
    edit,
    history: { past: [...history.past, edit], future, at: 0 },
  };
}
