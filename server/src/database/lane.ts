import type { MessagePort } from 'node:worker_threads';

/** Where writers take turns: SQLite has one writer at a time, and waiting inside SQLite blocks a thread. */
export interface WriteLane {
  /** Runs `work` when nobody else writes; whoever came first goes first. */
  turn<T>(work: () => T | Promise<T>): Promise<T>;
  /** Whether somebody waits for a turn: who writes much asks now and then. */
  isWanted(): boolean;
}

/** How many wait, where every thread can read it. */
const counter = (memory: SharedArrayBuffer) => new Int32Array(memory);

/** The lane of a process. */
export class LocalLane implements WriteLane {
  private last: Promise<unknown> = Promise.resolve();
  /** How many wait for a turn: of a thread that has one, for it to see. */
  readonly waiting = new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT);
  private readonly count = counter(this.waiting);

  turn<T>(work: () => T | Promise<T>): Promise<T> {
    Atomics.add(this.count, 0, 1);
    const done = this.last.then(() => {
      Atomics.sub(this.count, 0, 1);
      return work();
    });
    this.last = done.catch(() => undefined);
    return done;
  }

  isWanted(): boolean {
    return Atomics.load(this.count, 0) > 0;
  }
}

/** What a thread and the process say to each other about turns. */
export type LaneMessage = { lane: 'ask' } | { lane: 'yours' } | { lane: 'done' };

/** A thread's side: it asks the process for every turn, and gives it back. */
export class RemoteLane implements WriteLane {
  private granted: (() => void)[] = [];
  private readonly count: Int32Array;

  constructor(
    private readonly port: MessagePort,
    waiting: SharedArrayBuffer,
  ) {
    this.count = counter(waiting);
    port.on('message', ({ lane }: Partial<LaneMessage>) => {
      if (lane === 'yours') this.granted.shift()?.();
    });
  }

  async turn<T>(work: () => T | Promise<T>): Promise<T> {
    await new Promise<void>((resolve) => {
      this.granted.push(resolve);
      this.port.postMessage({ lane: 'ask' });
    });
    try {
      return await work();
    } finally {
      this.port.postMessage({ lane: 'done' });
    }
  }

  isWanted(): boolean {
    return Atomics.load(this.count, 0) > 0;
  }
}

/** The process's side: lets a thread have turns in its lane until the port is closed. */
export function lendLane(lane: WriteLane, port: MessagePort): void {
  let giveBack: () => void = () => undefined;
  port.on('message', ({ lane: said }: Partial<LaneMessage>) => {
    if (said === 'done') giveBack();
    if (said !== 'ask') return;
    void lane.turn(
      () =>
        new Promise<void>((resolve) => {
          giveBack = resolve;
          port.postMessage({ lane: 'yours' });
        }),
    );
  });
  // A thread that ends in the middle of a turn holds nobody up.
  port.on('close', () => giveBack());
}
