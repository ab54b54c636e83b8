import { useCallback, useEffect, useState } from 'react';
import { api } from './api';
import { useLive } from './live';

const NEEDY = new Set(['stale', 'failed', 'waiting']);

/** How many sources ask for attention: grown stale, failed, or holding a file back. */
export function useAttention(): number {
  const [count, setCount] = useState(0);
  const look = useCallback(() => {
    api
      .sources()
      .then(({ sources }) => setCount(sources.filter(({ status }) => NEEDY.has(status)).length))
      // What cannot be asked now is asked with the next change; the places themselves tell why.
      .catch(() => setCount(0));
  }, []);
  useEffect(look, [look]);
  useLive((news) => {
    const isOver = news.type === 'import' && news.state !== 'checking';
    if (news.type === 'source' || isOver) look();
  });
  return count;
}
