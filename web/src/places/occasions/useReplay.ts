import { useCallback, useEffect, useRef, useState } from 'react';
import { ENDPOINTS, type ReplayAnswer } from '@carafe/contract';
import { addFigures, type Occasion, type OccasionFigures } from '@carafe/core/occasion';
import { ask, messageOf } from '../../app/ask';

export interface ReplayAsked {
  occasions: { id: string; occasion: Occasion }[];
  mode: 'replay' | 'rehearse';
  days: number;
}
export interface ReplaySoFar {
  figures: OccasionFigures;
  people: number;
  from: string;
  /** Today, as it counted. */
  as_of: string;
  asked: ReplayAsked;
  running: boolean;
}

/** So many people at a time: the first few soon, then more. */
const FIRST = 500;
const PIECE = 5_000;

/** Replays occasions over everybody, some at a time: told as it goes, and it can be stopped. */
export function useReplay(shop: string) {
  const [soFar, setSoFar] = useState<ReplaySoFar | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const turn = useRef(0);
  const stop = useCallback(() => {
    turn.current++;
    setSoFar((now) => now && { ...now, running: false });
  }, []);
  const start = useCallback(
    async (asked: ReplayAsked) => {
      const mine = ++turn.current;
      setProblem(null);
      let after: number | null = 0;
      let figures: OccasionFigures | null = null;
      let as_of: string | undefined;
      try {
        while (after !== null) {
          const some: ReplayAnswer = await ask(ENDPOINTS.replay, {
            params: { shop },
            body: { ...asked, after, most: after === 0 ? FIRST : PIECE, ...(as_of && { as_of }) },
          });
          if (turn.current !== mine) return;
          ({ as_of } = some);
          figures = figures ? addFigures(figures, some.figures) : some.figures;
          after = some.next;
          setSoFar({
            figures,
            people: some.people,
            from: some.from,
            as_of: some.as_of,
            asked,
            running: after !== null,
          });
        }
      } catch (error) {
        if (turn.current !== mine) return;
        setProblem(messageOf(error));
        setSoFar((now) => now && { ...now, running: false });
      }
    },
    [shop],
  );
  useEffect(() => stop, [stop]);
  return { soFar, problem, start, stop };
}
