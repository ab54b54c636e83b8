import type { Worker } from 'node:worker_threads';
import { startThread } from '../jobs/startThread';
import type { KeptPerson } from './personRow';

/** What a thread that folds is asked: people of a shop, by address. */
export interface FoldQuestion {
  shop: string;
  emails: string[];
}
/** In the order of the question; null for whoever is in no source and no event. */
export type FoldAnswer = (KeptPerson | null)[];

/** A thread that puts people together from a database, which it only reads. */
export interface FoldThread {
  fold(shop: string, emails: string[]): Promise<FoldAnswer>;
  close(): Promise<void>;
}

/** Starts a thread over the database in a file. */
export type Folding = (database: string) => FoldThread;

interface Waiting {
  answer: (rows: FoldAnswer) => void;
  fail: (error: unknown) => void;
}

class Thread implements FoldThread {
  private readonly worker: Worker;
  private readonly waiting: Waiting[] = [];
  private failure: unknown;

  constructor(thread: URL, database: string) {
    this.worker = startThread(thread, { database });
    this.worker.on('message', (rows: FoldAnswer) => this.waiting.shift()?.answer(rows));
    const fail = (error: unknown) => {
      this.failure ??= error;
      for (const { fail: told } of this.waiting.splice(0)) told(this.failure);
    };
    this.worker.on('error', fail);
    this.worker.on('exit', () =>
      fail(new Error('A thread that folds ended before its work was over.')),
    );
  }

  fold(shop: string, emails: string[]): Promise<FoldAnswer> {
    if (this.failure !== undefined) return Promise.reject(this.failure as Error);
    return new Promise((answer, fail) => {
      this.waiting.push({ answer, fail });
      this.worker.postMessage({ shop, emails } satisfies FoldQuestion);
    });
  }

  async close(): Promise<void> {
    this.waiting.length = 0;
    await this.worker.terminate();
  }
}

/** Folds people in threads beside (jobs/folder.ts), as `foldPerson` does here. */
export const foldingBeside =
  (thread: URL): Folding =>
  (database) =>
    new Thread(thread, database);
