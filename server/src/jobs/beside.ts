import type { Worker } from 'node:worker_threads';
import { FormatError } from '@carafe/core/formats';
import { startThread } from './startThread';

export const TOO_LARGE =
  'Reading this file needs more memory than Carafe allows for one file. Send it as CSV or NDJSON, which are read in parts.';

/** What a thread says that makes batches: the next, that there are no more, or what a person did wrong. */
export type BatchMessage<T> = { batch: T } | { over: true } | { wrong: string };

/** So many batches are made ahead. */
export const AHEAD = 8;

/** A thread that makes batches: while one is used, the next are made. */
export class Beside<T> {
  private readonly worker: Worker;
  private readonly told: BatchMessage<T>[] = [];
  private failure: unknown;
  private wake: () => void = () => undefined;

  /** `workerData` tells the thread what to make. */
  constructor(thread: URL, workerData: unknown) {
    this.worker = startThread(thread, workerData);
    this.worker.on('message', (message: BatchMessage<T>) => {
      this.told.push(message);
      this.wake();
    });
    const fail = (error: unknown) => {
      const isTooLarge = (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY';
      this.failure ??= isTooLarge ? new FormatError(TOO_LARGE) : error;
      this.wake();
    };
    this.worker.on('error', fail);
    this.worker.on('exit', () => fail(new Error('A thread ended before its work was over.')));
  }

  /** The next batch, or null after the last. Throws a FormatError where the thread says what is wrong. */
  async next(): Promise<T | null> {
    for (;;) {
      const message = this.told.shift();
      if (message === undefined) {
        if (this.failure !== undefined) throw this.failure;
        await new Promise<void>((done) => (this.wake = done));
      } else if ('batch' in message) {
        this.worker.postMessage('more');
        return message.batch;
      } else if ('wrong' in message) throw new FormatError(message.wrong);
      else return null;
    }
  }

  async close(): Promise<void> {
    await this.worker.terminate();
  }
}
