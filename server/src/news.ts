import type { LiveNews } from '@carafe/contract';

type Listener = (news: LiveNews) => void;

/** Tells whoever listens what changed. */
export class News {
  private readonly listeners = new Set<Listener>();

  tell(news: LiveNews): void {
    for (const listener of this.listeners) listener(news);
  }

  /** Gives the way to stop listening. */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
