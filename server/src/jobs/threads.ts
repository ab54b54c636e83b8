import { MessageChannel } from 'node:worker_threads';
import { FormatError } from '@carafe/core/formats';
import { Piscina } from 'piscina';
import { lendLane, type LocalLane } from '../database/lane';
import { TOO_LARGE } from './beside';
import type { AllJobs } from './handlers';
import { Stopped, type Jobs } from './jobs';
import { LANES, THREADS, type Lane } from './lanes';
import { Quiet } from './quiet';
import { MAX_MEMORY } from './startThread';
import type { ThreadResult, ThreadTask } from './worker';

/** By so much such work gives way to the other threads where there are more than cores (0 to 19, as of `nice`). */
const NICE = 19;

export interface ThreadOptions {
  database: string;
  migrations: string;
  worker: URL;
  lane: LocalLane;
}

/** Does work in threads, each of which keeps the database open; writers take turns in one lane. */
export function threadJobs({ database, migrations, worker, lane }: ThreadOptions): Jobs<AllJobs> & {
  close: () => Promise<void>;
  waiting: () => Record<Lane, number>;
} {
  const isSource = worker.pathname.endsWith('.ts');
  const common = {
    filename: worker.href,
    idleTimeout: 60_000,
    ...(isSource && { execArgv: ['--import', 'tsx'] }),
  };
  // Those of screens are there at any time: starting one takes longer than most of what somebody waits for.
  const pool = (lane: Lane, more: object = {}) =>
    new Piscina({
      ...{ ...common, minThreads: lane === 'quick' ? THREADS.quick : 0 },
      ...{ maxThreads: THREADS[lane], ...more },
    });
  const limited = { resourceLimits: { maxOldGenerationSizeMb: MAX_MEMORY } };
  const pools: Record<Lane, Piscina> = {
    quick: pool('quick'),
    evaluating: pool('evaluating', limited),
    filling: pool('filling', limited),
    sending: pool('sending'),
    long: pool('long', limited),
    aside: pool('aside', { niceIncrement: NICE }),
  };
  const quiet = new Quiet();
  const inPool = async (name: keyof AllJobs, give: (pool: Piscina) => Promise<ThreadResult>) => {
    const [lane] = LANES[name];
    if (lane === 'quick') return give(pools.quick);
    if (lane !== 'aside') return quiet.during(() => give(pools[lane]));
    await quiet.come();
    return give(pools.aside);
  };
  return {
    async run(name, task, { progress, signal } = {}) {
      const { port1, port2 } = new MessageChannel();
      port1.on('message', (said: number | object) => {
        if (typeof said === 'number') progress?.(said);
      });
      lendLane(lane, port1);
      const given: ThreadTask = {
        ...{ database, migrations, name, task },
        ...{ port: port2, waiting: lane.waiting },
      };
      const [, limit] = LANES[name];
      const late = AbortSignal.timeout(limit);
      try {
        const ends = signal ? AbortSignal.any([signal, late]) : late;
        const options = { transferList: [port2], signal: ends };
        const answer = await inPool(
          name,
          (pool) => pool.run(given, options) as Promise<ThreadResult>,
        );
        if (!answer.ok) throw new FormatError(answer.message);
        return answer.result as never;
      } catch (error) {
        if (signal?.aborted) throw new Stopped('This was stopped.');
        if (late.aborted)
          throw new FormatError(
            `This took longer than ${Math.round(limit / 60_000)} minutes and was stopped. Nothing was kept.`,
          );
        if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
          throw new FormatError(TOO_LARGE);
        throw error;
      } finally {
        port1.close();
      }
    },
    /** How much waits for a thread, by lane. */
    waiting: () =>
      Object.fromEntries(
        Object.entries(pools).map(([lane, one]) => [lane, one.queueSize]),
      ) as Record<Lane, number>,
    async close() {
      await Promise.all(Object.values(pools).map((one) => one.destroy()));
    },
  };
}
