import { useCallback, useEffect, useRef, useState } from 'react';
import { ENDPOINTS, type RuleFigures } from '@carafe/contract';
import { together, type Figures } from '@carafe/core/recommend';
import { ask, messageOf } from '../../app/ask';

export interface FiguresSoFar {
  figures: Figures;
  people: number;
  pool: NonNullable<RuleFigures['pool']>;
  /** Still counting. */
  running: boolean;
}

/** Counts a rule over everybody, some at a time: told as it goes, and it can be stopped. */
export function useFigures(id: string) {
  const [soFar, setSoFar] = useState<FiguresSoFar | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const turn = useRef(0);
  const stop = useCallback(() => {
    turn.current++;
    setSoFar((now) => now && { ...now, running: false });
  }, []);
  const start = useCallback(async () => {
    const mine = ++turn.current;
    setProblem(null);
    let after: number | null = 0;
    let figures: Figures | null = null;
    let pool: FiguresSoFar['pool'] = [];
    try {
      while (after !== null) {
        const some: RuleFigures = await ask(ENDPOINTS.ruleFigures, {
          params: { id },
          query: { after },
        });
        if (turn.current !== mine) return;
        figures = figures ? together(figures, some.figures) : some.figures;
        pool = some.pool ?? pool;
        after = some.next;
        setSoFar({ figures, people: some.people, pool, running: after !== null });
      }
    } catch (error) {
      if (turn.current === mine) setProblem(messageOf(error));
    }
  }, [id]);
  useEffect(() => stop, [stop]);
  return { soFar, problem, start, stop };
}
