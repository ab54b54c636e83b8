/**
 * Keeps changes of the server's own waiting while a thread writes: SQLite has one writer at a time,
 * and waiting for it inside SQLite would hold up everybody's reading too.
 */
export class WriteGate {
  private last: Promise<unknown> = Promise.resolve();

  /** Runs what writes elsewhere; one at a time. */
  hold<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.last.then(work);
    this.last = turn.catch(() => undefined);
    return turn;
  }

  /** Settles when nothing writes elsewhere. */
  async free(): Promise<void> {
    let before;
    do {
      before = this.last;
      await before;
    } while (before !== this.last);
  }
}
