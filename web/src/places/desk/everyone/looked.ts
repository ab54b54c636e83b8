import { useCallback, useState } from 'react';
import type { FilledDraft } from '../../../parts/mails/filledDraft';

const nameOf = (template: string) => `carafe.looked.${template}`;

/** A short mark of a mail: equal for equal mails (FNV-1a, 32 bits). */
function markOf({ subject, html }: FilledDraft): string {
  let hash = 0x811c9dc5;
  for (const letter of `${subject}\n${html}`)
    hash = Math.imul(hash ^ (letter.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return hash.toString(36);
}

function read(template: string): Record<string, string> {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(nameOf(template)) ?? '{}');
    return typeof kept === 'object' && kept !== null ? (kept as Record<string, string>) : {};
  } catch {
    return {};
  }
}

/** Which variants were looked at, in this browser. A tick lapses when the mail of its variant is another. */
export function useLooked(template: string) {
  const [marks, setMarks] = useState(() => read(template));
  const change = useCallback(
    (to: (before: Record<string, string>) => Record<string, string>) =>
      setMarks((before) => {
        const next = to(before);
        if (next !== before) localStorage.setItem(nameOf(template), JSON.stringify(next));
        return next;
      }),
    [template],
  );
  const without = (before: Record<string, string>, key: string) =>
    Object.fromEntries(Object.entries(before).filter(([one]) => one !== key));
  const settle = useCallback(
    (key: string, mail: FilledDraft) =>
      change((before) =>
        before[key] === undefined || before[key] === markOf(mail) ? before : without(before, key),
      ),
    [change],
  );
  return {
    has: (key: string) => marks[key] !== undefined,
    tick: (key: string, mail: FilledDraft) =>
      change((before) => ({ ...before, [key]: markOf(mail) })),
    untick: (key: string) => change((before) => without(before, key)),
    /** Told the mail as it is now. */
    settle,
  };
}
