import { Stopped, type JobHandlers, type Jobs } from './jobs';

/** Does work on the spot: for the first data, the command line and tests. */
export function inlineJobs<M>(handlers: JobHandlers<M>): Jobs<M> {
  return {
    async run(name, task, { progress, signal } = {}) {
      return (await handlers[name](task, (rows) => {
        if (signal?.aborted) throw new Stopped('This was stopped.');
        progress?.(rows);
        // Others get their turn between batches.
        return new Promise<void>((done) => setImmediate(done));
      })) as never;
    },
  };
}
