import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { ENDPOINTS, type OutboxItem, type OutboxQuery } from '@carafe/contract';
import { ROWS_A_PAGE } from '../../app/api';
import { ask, messageOf } from '../../app/ask';
import { useLive } from '../../app/live';

export type OutboxAsked = Pick<OutboxQuery, 'state' | 'occasion' | 'step' | 'search' | 'reason'>;

/** Mails of the outbox as far as they were looked at: pages are asked for when they come into view, and anew when something changed. */
export function useOutbox(shop: string, { state, occasion, step, search, reason }: OutboxAsked) {
  const [total, setTotal] = useState<number | null>(null);
  const [pages, setPages] = useState<ReadonlyMap<number, OutboxItem[]>>(new Map());
  const [problem, setProblem] = useState<string | null>(null);
  const [turn, setTurn] = useState(0);
  const current = useRef(0);
  const underway = useRef(new Set<number>());
  useLive((update) => {
    if (update.type === 'outbox' || update.type === 'clock') setTurn((n) => n + 1);
  });
  const load = useCallback(
    (page: number) => {
      if (underway.current.has(page)) return;
      underway.current.add(page);
      const mine = current.current;
      ask(ENDPOINTS.listOutbox, {
        params: { shop },
        query: {
          state,
          occasion,
          step,
          search,
          reason,
          offset: page * ROWS_A_PAGE,
          limit: ROWS_A_PAGE,
        },
      })
        .then((found) => {
          if (current.current !== mine) return;
          setTotal(found.total);
          setPages((known) => new Map([...known, [page, found.mails]]));
          setProblem(null);
        })
        .catch((error: unknown) => {
          if (current.current !== mine) return;
          underway.current.delete(page);
          setProblem(messageOf(error));
        });
    },
    [shop, state, occasion, step, search, reason],
  );
  useEffect(() => {
    current.current++;
    underway.current = new Set();
    setPages(new Map());
    load(0);
  }, [load, turn]);
  const want = useCallback(
    (from: number, to: number) => {
      for (let page = Math.floor(from / ROWS_A_PAGE); page <= Math.floor(to / ROWS_A_PAGE); page++)
        if (!pages.has(page)) load(page);
    },
    [pages, load],
  );
  const at = (index: number): OutboxItem | undefined =>
    pages.get(Math.floor(index / ROWS_A_PAGE))?.[index % ROWS_A_PAGE];
  /** The emails that came so far, in the order of the list. */
  const loaded = useMemo(
    () => [...pages].sort(([a], [b]) => a - b).flatMap(([, mails]) => mails),
    [pages],
  );
  return { total, at, want, loaded, problem };
}
