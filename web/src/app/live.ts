import { useEffect, useRef } from 'react';
import { LiveUpdate } from '@carafe/contract';

type Listener = (update: LiveUpdate) => void;
const listeners = new Set<Listener>();
let source: EventSource | null = null;
/** What was heard last: after a while away, the page goes on from there, or learns that it is stale. */
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
  const since = heard === null ? '' : `?since=${encodeURIComponent(heard)}`;
  source = new EventSource(`/api/live${since}`);
  source.onmessage = ({ data, lastEventId }: MessageEvent<string>) => {
    heard = lastEventId;
    const read = LiveUpdate.safeParse(JSON.parse(data));
    if (read.success) for (const listener of listeners) listener(read.data);
  };
}
document.addEventListener('visibilitychange', follow);

/** Calls `listen` with what changes on the server, as it happens; gives the way to stop. */
export function listenLive(listen: Listener): () => void {
  listeners.add(listen);
  follow();
  return () => {
    listeners.delete(listen);
    follow();
  };
}

/** The same for as long as a component stands on the page. */
export function useLive(listen: Listener): void {
  const latest = useRef(listen);
  useEffect(() => {
    latest.current = listen;
  });
  useEffect(() => listenLive((update) => latest.current(update)), []);
}
