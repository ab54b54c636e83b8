import { useEffect, useRef } from 'react';
import type { LiveNews } from '@carafe/contract';

const listeners = new Set<(news: LiveNews) => void>();
let source: EventSource | null = null;

/** One connection serves the whole page, opened when somebody first listens. */
function connect(): void {
  if (source) return;
  source = new EventSource('/api/live');
  source.onmessage = ({ data }: MessageEvent<string>) => {
    const news = JSON.parse(data) as LiveNews;
    for (const listener of listeners) listener(news);
  };
}

/** Calls `listen` with what changes on the server, as it happens. */
export function useLive(listen: (news: LiveNews) => void): void {
  const latest = useRef(listen);
  useEffect(() => {
    latest.current = listen;
  });
  useEffect(() => {
    const listener = (news: LiveNews) => latest.current(news);
    listeners.add(listener);
    connect();
    return () => {
      listeners.delete(listener);
      if (listeners.size > 0) return;
      source?.close();
      source = null;
    };
  }, []);
}
