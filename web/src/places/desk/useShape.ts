import { useCallback, useRef, useState } from 'react';
import type { Shape } from '@carafe/core/shape';

const UNKNOWN: Shape = { kind: 'any' };
/** What waits for the shape is done without it after so long: perhaps it does not come. */
const LONGEST_MS = 5_000;

type Work = (shape: Shape) => void;

/** The shape of a shop's records: it comes after the mail, and what cannot be done without it waits. */
export function useShape() {
  const [shape, setShape] = useState(UNKNOWN);
  const known = useRef(UNKNOWN);
  const waiting = useRef(new Set<Work>());
  const shapeCame = useCallback((came: Shape) => {
    known.current = came;
    setShape(came);
    const works = [...waiting.current];
    waiting.current.clear();
    for (const work of works) work(came);
  }, []);
  const whenShaped = useCallback((work: Work) => {
    if (known.current.kind !== 'any') {
      work(known.current);
      return;
    }
    waiting.current.add(work);
    setTimeout(() => waiting.current.delete(work) && work(known.current), LONGEST_MS);
  }, []);
  return { shape, shapeCame, whenShaped };
}
