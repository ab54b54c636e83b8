import { setTimeout as sleep } from 'node:timers/promises';

/** Between two pieces of one long work is less time than this, in milliseconds. */
const BETWEEN = 250;
/** So long work that nobody waits for waits at most, in milliseconds, so that it goes on in the end. */
const PATIENCE = 30_000;

/**
 * Tells when no long work goes on, so that what nobody waits for leaves the machine to it: being nice is not enough where
 * threads wait for each other now and then.
 */
export class Quiet {
  private busy = 0;
  private ended = -Infinity;

  constructor(
    private readonly between = BETWEEN,
    private readonly patience = PATIENCE,
  ) {}

  /** Does long work. */
  async during<T>(work: () => Promise<T>): Promise<T> {
    this.busy++;
    try {
      return await work();
    } finally {
      this.busy--;
      this.ended = performance.now();
    }
  }

  /** Waits until no long work went on for a moment. */
  async come(): Promise<void> {
    const isQuiet = () => this.busy === 0 && performance.now() - this.ended >= this.between;
    const last = performance.now() + this.patience;
    while (!isQuiet() && performance.now() < last)
      await sleep(this.between, undefined, { ref: false });
  }
}
