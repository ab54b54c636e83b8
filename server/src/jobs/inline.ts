import type { Store } from '../db';
import { doWork, Stopped, type Jobs } from './work';

/** Does work on the spot: for the first data, the command line and tests. */
export function inlineJobs(store: Store): Jobs {
  return {
    run: (name, task, { progress, signal } = {}) =>
      doWork(store, name, task, (rows) => {
        if (signal?.aborted) throw new Stopped('This was stopped.');
        progress?.(rows);
        // Others get their turn between batches.
        return new Promise((done) => setImmediate(done));
      }),
    close: () => Promise.resolve(),
  };
}
