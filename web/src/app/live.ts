import { useEffect, useRef } from 'react';
import type { LiveNews } from '@carafe/contract';

const listeners = new Set<(news: LiveNews) => void>();
let source: EventSource | null = null;
/** What was heard last: after a while away, the page goes on from there. */
let heard: string | null = null;

/**
 * One connection serves the whole page, and only while it can be seen: browsers allow a site few
 * connections at once, and a designer has many pages open.
 */
function follow(): void {
  const wanted = listeners.size > 0 && document.visibilityState === 'visible';
  if (!wanted) {
    source?.close();
    source = null;
    return;
  }
  if (source) return;
  source = new EventSource(heard === null ? '/api/live' : `/api/live?since=${heard}`);
  source.onmessage = ({ data, lastEventId }: MessageEvent<string>) => {
    heard = lastEventId;
    const news = JSON.parse(data) as LiveNews;
    for (const listener of listeners) listener(news);
  };
}
document.addEventListener('visibilitychange', follow);

/** Calls `listen` with what changes on the server, as it happens. */
export function useLive(listen: (news: LiveNews) => void): void {
  const latest = useRef(listen);
  useEffect(() => {
    latest.current = listen;
  });
  useEffect(() => {
    const listener = (news: LiveNews) => latest.current(news);
    listeners.add(listener);
    follow();
    return () => {
      listeners.delete(listener);
      follow();
    };
  }, []);
}
