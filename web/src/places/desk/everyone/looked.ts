import { useCallback } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { lookedApi } from '../../../app/lookedApi';
import type { FilledDraft } from '../../../parts/mails/filledDraft';
import { notifyFailure } from '../../../parts/notify';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** A short mark of a mail: equal for equal mails (FNV-1a, 32 bits). */
function markOf({ subject, html }: FilledDraft): string {
  let hash = 0x811c9dc5;
  for (const letter of `${subject}\n${html}`)
    hash = Math.imul(hash ^ (letter.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return hash.toString(36);
}

const NONE: Readonly<Record<string, string>> = {};

/** Which variants were looked at. A tick lapses when the mail of its variant is another. */
export function useLooked(template: string) {
  const { data } = lookedApi.useLookedQuery(template === '' ? skipToken : template);
  const [tick] = lookedApi.useTickMutation();
  const marks = data?.marks ?? NONE;
  const put = useCallback(
    (variant: string, mark: string | null) => {
      tick({ id: template, variant, mark })
        .unwrap()
        .catch((error: unknown) => notifyFailure(error, t('theTickWasNotSaved')));
    },
    [tick, template],
  );
  const settle = useCallback(
    (key: string, mail: FilledDraft) => {
      const seen = marks[key];
      if (seen !== undefined && seen !== markOf(mail)) put(key, null);
    },
    [marks, put],
  );
  return {
    has: (key: string) => Object.hasOwn(marks, key),
    tick: (key: string, mail: FilledDraft) => put(key, markOf(mail)),
    untick: (key: string) => put(key, null),
    /** Told the mail as it is now. */
    settle,
  };
}
