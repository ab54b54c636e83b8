import { useCallback, useEffect, useRef, useState } from 'react';
import { ENDPOINTS } from '@carafe/contract';
import { ROWS_A_PAGE } from '../../app/api';
import { ask as askServer, messageOf } from '../../app/ask';

/** What a person reads of the rows of a source. */
export interface RowsAsked {
  q: string;
  filter: string;
  sort: string | null;
  descending: boolean;
}

export interface StoredRow {
  id: number;
  key: string;
  record: Record<string, unknown>;
}

/** The rows of a source as far as they were looked at: pages are asked for when they come into view. */
export function useRows(source: string, asked: RowsAsked, revision: string) {
  const [total, setTotal] = useState<number | null>(null);
  const [pages, setPages] = useState<ReadonlyMap<number, StoredRow[]>>(new Map());
  const [problem, setProblem] = useState<string | null>(null);
  const { q, filter, sort, descending } = asked;
  const question = JSON.stringify([source, revision, q, filter, sort, descending]);
  const current = useRef('');
  const underway = useRef(new Set<number>());
  const ask = useCallback(
    (page: number) => {
      if (underway.current.has(page)) return;
      underway.current.add(page);
      const asking = current.current;
      const query = { q, filter, descending: String(descending), ...(sort !== null && { sort }) };
      const paged = { ...query, offset: page * ROWS_A_PAGE, limit: ROWS_A_PAGE };
      askServer(ENDPOINTS.sourceRows, { params: { id: source }, query: paged })
        .then((found) => {
          if (current.current !== asking) return;
          setTotal(found.total);
          setPages(
            (known) =>
              new Map([...(page === 0 && known.size === 0 ? [] : known), [page, found.rows]]),
          );
          setProblem(null);
        })
        .catch((error: unknown) => {
          if (current.current !== asking) return;
          underway.current.delete(page);
          setProblem(messageOf(error));
        });
    },
    [source, q, filter, sort, descending],
  );
  useEffect(() => {
    current.current = question;
    underway.current = new Set();
    setPages(new Map());
    ask(0);
  }, [question, ask]);
  /** Makes sure that the rows from one to another are here, or on their way. */
  const want = useCallback(
    (from: number, to: number) => {
      for (let page = Math.floor(from / ROWS_A_PAGE); page <= Math.floor(to / ROWS_A_PAGE); page++)
        if (!pages.has(page)) ask(page);
    },
    [pages, ask],
  );
  const at = (index: number): StoredRow | undefined =>
    pages.get(Math.floor(index / ROWS_A_PAGE))?.[index % ROWS_A_PAGE];
  return { total, at, want, problem, first: pages.get(0) ?? [] };
}
