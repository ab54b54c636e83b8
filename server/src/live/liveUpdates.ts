import type { LiveUpdate } from '@carafe/contract';

interface Told {
  /** `<start of the server>-<number>`, so that a page knows whether it hears the same server. */
  id: string;
  update: LiveUpdate;
}
type Listener = (told: Told) => void;

/** What was published last is kept for pages that were away for a while. */
const MAX_KEPT = 200;

/** Publishes what changed to whoever listens. */
export class LiveUpdates {
  private readonly listeners = new Set<Listener>();
  private readonly kept: Told[] = [];
  private last = 0;
  private readonly closers = new Set<() => void>();

  /** `start` tells one start of the server from another. */
  constructor(private readonly start: string) {}

  publish(update: LiveUpdate): void {
    const told = { id: this.id(++this.last), update };
    this.kept.push(told);
    if (this.kept.length > MAX_KEPT) this.kept.shift();
    for (const listener of this.listeners) listener(told);
  }

  /**
   * Listens, on from what was heard last where that is given; where that is too long ago, or of
   * another start of the server, the listener is told that all may have changed. Gives the way to stop.
   */
  listen(listener: Listener, since?: string): () => void {
    const missed = since === undefined ? [] : this.since(since);
    if (since === undefined) listener({ id: this.id(this.last), update: { type: 'here' } });
    else if (missed) missed.forEach(listener);
    else listener({ id: this.id(this.last), update: { type: 'stale' } });
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** The server stops: `close` ends what listens. */
  onClose(close: () => void): () => void {
    this.closers.add(close);
    return () => this.closers.delete(close);
  }

  close(): void {
    for (const close of this.closers) close();
  }

  private id(number: number): string {
    return `${this.start}-${number}`;
  }

  /** What was published after an id; null where that cannot be told any more. */
  private since(id: string): Told[] | null {
    const number = Number(id.slice(this.start.length + 1));
    if (!id.startsWith(`${this.start}-`) || !Number.isInteger(number)) return null;
    const first = this.last - this.kept.length;
    return number < first || number > this.last ? null : this.kept.slice(number - first);
  }
}
