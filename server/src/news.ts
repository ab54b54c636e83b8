import type { LiveNews } from '@carafe/contract';

interface Told {
  id: number;
  news: LiveNews;
}
type Listener = (told: Told) => void;

/** What was told last is kept for pages that were away for a while. */
const MAX_KEPT = 200;

/** Tells whoever listens what changed. */
export class News {
  private readonly listeners = new Set<Listener>();
  private readonly kept: Told[] = [];
  private last = 0;

  tell(news: LiveNews): void {
    const told = { id: ++this.last, news };
    this.kept.push(told);
    if (this.kept.length > MAX_KEPT) this.kept.shift();
    for (const listener of this.listeners) listener(told);
  }

  /** Listens, on from what was heard last where that is given. Gives the way to stop listening. */
  listen(listener: Listener, since?: number): () => void {
    if (since === undefined) listener({ id: this.last, news: { type: 'here' } });
    else for (const told of this.kept) if (told.id > since) listener(told);
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
