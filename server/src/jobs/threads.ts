import { MessageChannel } from 'node:worker_threads';
import { FormatError } from '@carafe/core/formats';
import { Piscina } from 'piscina';
import type { ThreadResult, ThreadTask } from './worker';
import { Stopped, type Jobs } from './work';

/** Does work in threads, each over a connection of its own to the same database file. */
export function threadJobs(database: string, migrations: string, worker: URL): Jobs {
  const isSource = worker.pathname.endsWith('.ts');
  const pool = new Piscina({
    filename: worker.href,
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 30_000,
    ...(isSource && { execArgv: ['--import', 'tsx'] }),
  });
  return {
    async run(name, task, { progress, signal } = {}) {
      const { port1, port2 } = new MessageChannel();
      port1.on('message', (rows: number) => progress?.(rows));
      const given: ThreadTask = { database, migrations, name, task, port: port2 };
      try {
        const answer = (await pool.run(given, {
          transferList: [port2],
          ...(signal && { signal }),
        })) as ThreadResult;
        if (!answer.ok) throw new FormatError(answer.message);
        return answer.result as never;
      } catch (error) {
        if (signal?.aborted) throw new Stopped('This was stopped.');
        throw error;
      } finally {
        port1.close();
      }
    },
    close: () => pool.destroy(),
  };
}
