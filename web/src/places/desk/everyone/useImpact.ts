import { useEffect, useState } from 'react';
import { ENDPOINTS, type AnswerOf, type AudienceChoice } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import { addImpact, type Impact } from '@carafe/core/variant';
import { ask, messageOf } from '../../../app/ask';

const FIRST = 400;
const PIECE = 3_000;
const PAUSE_MS = 700;

/** Whose mail differs between two versions of a template; an edit starts it anew. */
export function useImpact(before: Template | null, after: Template, audience: AudienceChoice) {
  const [impact, setImpact] = useState<Impact | null>(null);
  const [running, setRunning] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!before) return;
    let current = true;
    const run = async () => {
      let soFar: Impact | null = null;
      setProblem(null);
      setRunning(true);
      try {
        for (let from: number | null = 0; from !== null;) {
          const piece: AnswerOf<typeof ENDPOINTS.impact> = await ask(ENDPOINTS.impact, {
            params: { shop: after.shop },
            body: {
              ...{ before, after_edit: after, audience, after: from },
              most: from === 0 ? FIRST : PIECE,
            },
          });
          if (!current) return;
          soFar = soFar ? addImpact(soFar, piece.impact) : piece.impact;
          setImpact(soFar);
          from = piece.next;
        }
      } catch (error) {
        if (current) setProblem(messageOf(error));
      }
      if (current) setRunning(false);
    };
    const later = setTimeout(() => void run(), PAUSE_MS);
    return () => {
      current = false;
      clearTimeout(later);
    };
  }, [before, after, audience]);
  return { impact, running, problem };
}
