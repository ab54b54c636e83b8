import { useEffect, useRef, useState } from 'react';
import type { StoredOccasion } from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';

export interface OccasionEdit {
  occasion: Occasion;
  /** The version that the screen shows, once all is kept. */
  version: number;
  problem: string | null;
  saving: boolean;
  put: (occasion: Occasion) => void;
  undo: (() => void) | null;
}

/** An occasion whose draft is kept with each change, one after the other, and can be gone back from. */
export function useOccasion({ id, occasion: stored, version }: StoredOccasion): OccasionEdit {
  const [change] = occasionsApi.useChangeOccasionMutation();
  const [occasion, setOccasion] = useState(stored);
  const [past, setPast] = useState<readonly Occasion[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [waiting, setWaiting] = useState(0);
  const latest = useRef(version);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  useEffect(() => {
    // What is listed lags behind what was kept: only the newest is taken over.
    if (version < latest.current) return;
    latest.current = version;
    if (waiting === 0 && problem === null) setOccasion(stored);
  }, [stored, version, waiting, problem]);
  const keep = (to: Occasion) => {
    setOccasion(to);
    setWaiting((n) => n + 1);
    last.current = last.current.then(async () => {
      const { data, error } = await change({ id, version: latest.current, occasion: to });
      if (data) latest.current = data.version;
      setProblem(error ? messageOf(error) : null);
      setWaiting((n) => n - 1);
    });
  };
  const put = (to: Occasion) => {
    setPast((before) => [...before.slice(-50), occasion]);
    keep(to);
  };
  const earlier = past.at(-1);
  const undo = earlier
    ? () => {
        setPast((before) => before.slice(0, -1));
        keep(earlier);
      }
    : null;
  return { occasion, version, problem, saving: waiting > 0, put, undo };
}
