import type { Logger } from 'pino';

/** Something that is to be looked after again and again. */
type Listener = () => Promise<void>;

const TICK_MS = 30_000;

/** The one that ticks: whatever has to happen by time hangs on it. One tick ends before the next begins. */
export class Clock {
  private readonly listeners: Listener[] = [];
  private timer: NodeJS.Timeout | null = null;
  private isTicking = false;
  private tickedAt: Date | null = null;

  constructor(
    private readonly now: () => Date,
    private readonly log: Logger,
  ) {}

  onTick(listener: Listener): void {
    this.listeners.push(listener);
  }

  async tick(): Promise<void> {
    if (this.isTicking) return;
    this.isTicking = true;
    this.tickedAt = this.now();
    try {
      for (const listener of this.listeners)
        await listener().catch((error: unknown) => this.log.error(error));
    } finally {
      this.isTicking = false;
    }
  }

  /** Seconds since the last tick; null before the first. */
  age(): number | null {
    return this.tickedAt && Math.round((this.now().getTime() - this.tickedAt.getTime()) / 1000);
  }

  start(): void {
    this.timer ??= setInterval(() => void this.tick(), TICK_MS);
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
  }
}

const HOUR_MS = 3_600_000;

/** Something that is to be done at the first tick, and again after so many hours; a clock that was put back counts anew. */
export function every(hours: number, now: () => Date, work: Listener): Listener {
  let done = Number.NEGATIVE_INFINITY;
  return async () => {
    const at = now().getTime();
    if (Math.abs(at - done) < hours * HOUR_MS) return;
    done = at;
    await work();
  };
}
