import type { Db } from './open';

/** Does about `size` rows of some long work; says whether there is more. */
export type Step = (size: number) => boolean;

/** A slice takes about so long, in milliseconds: whoever saves meanwhile waits for one. */
const SLICE_MS = 25;
const FIRST_SIZE = 100;
const MOST_SIZE = 20_000;
/** As long as nobody else writes, slices share a transaction for so long: each writes its pages anew. */
const ALONE_MS = 1_000;
/** Once somebody else wrote, each slice is written by itself for so long: more will come. */
const OTHERS_MS = 10_000;

/** Until when others are expected to write, on the clock of `performance`; known to all work of a thread. */
export interface Others {
  until: number;
}

/** Long work, a slice after the other, as many in one transaction as nobody waits for. */
export class Slices {
  private size = FIRST_SIZE;
  private readonly one: Step;
  private failure: { error: unknown } | null = null;

  /** `isBulk`: see `Store.writeInBulk`. */
  constructor(
    db: Db,
    step: Step,
    private readonly isWanted: () => boolean,
    private readonly others: Others = { until: 0 },
    private readonly isBulk = false,
  ) {
    this.one = isBulk ? step : db.transaction(step);
  }

  /** One transaction's worth; says whether there is more. To be called inside that transaction. */
  some(): boolean {
    const start = performance.now();
    const until = start < this.others.until ? start : start + ALONE_MS;
    for (;;) {
      const from = performance.now();
      let more = false;
      try {
        more = this.one(this.size);
      } catch (error) {
        if (this.isBulk) throw error;
        // The slices before it stay, as if each had been written by itself.
        this.failure = { error };
        return false;
      }
      this.fit(performance.now() - from);
      const isWanted = this.isWanted();
      if (isWanted) this.others.until = performance.now() + OTHERS_MS;
      if (!more || isWanted || performance.now() >= until) return more;
    }
  }

  /** Throws what a slice has thrown. */
  rethrow(): void {
    if (this.failure) throw this.failure.error;
  }

  private fit(took: number): void {
    const size = this.size * Math.min(2, SLICE_MS / (took + 1));
    this.size = Math.max(1, Math.min(MOST_SIZE, Math.round(size)));
  }
}
