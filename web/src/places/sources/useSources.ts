import { useCallback, useEffect, useState } from 'react';
import type { Shop, SourceSummary } from '@carafe/contract';
import { api, messageOf } from '../../app/api';
import { useLive } from '../../app/live';

/** All sources and shops, kept up to date. */
export function useSources() {
  const [sources, setSources] = useState<SourceSummary[] | null>(null);
  const [shops, setShops] = useState<Shop[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const load = useCallback(async () => {
    try {
      const [found, known] = await Promise.all([api.sources(), api.shops()]);
      setSources(found.sources);
      setShops(known.shops);
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    }
  }, []);
  useEffect(() => {
    void load();
  }, [load]);
  useLive((news) => {
    const isOver = news.type === 'import' && news.state !== 'checking';
    if (news.type === 'source' || isOver) void load();
  });
  return { sources, shops, problem, load };
}
