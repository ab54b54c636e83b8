import { MessageChannel } from 'node:worker_threads';
import { FormatError } from '@carafe/core/formats';
import { Piscina } from 'piscina';
import { lendLane, type LocalLane } from '../database/lane';
import { TOO_LARGE } from './beside';
import type { AllJobs } from './handlers';
import { Stopped, type Jobs } from './jobs';
import { Quiet } from './quiet';
import { MAX_MEMORY } from './startThread';
import type { ThreadResult, ThreadTask } from './worker';

/** Work that somebody waits for at a screen: it has threads of its own, which long work never takes. */
const QUICK: ReadonlySet<keyof AllJobs> = new Set([
  'build',
  'skeletons',
  'render',
  'fill',
  'preview',
  'sharedData',
  'shape',
  'selectRows',
  'samples',
  'picks',
  'picksOfMany',
  'ruleFigures',
  'profile',
  'walk',
  'pastMail',
  'peekMail',
  'surveyFew',
  'takeFewEvents',
  'occasionCounts',
  'insidePage',
  'handList',
  'outboxPage',
  'outboxAfter',
  'outboxStates',
  'recipients',
  'facets',
  'notes',
  'noteProducts',
]);

/** Work that nobody waits for: it leaves the long threads to those who do, and begins when they rest. */
const ASIDE: ReadonlySet<keyof AllJobs> = new Set(['taste', 'surveyAside']);

/** By so much such work gives way to the other threads where there are more than cores (0 to 19, as of `nice`). */
const NICE = 19;

export interface ThreadOptions {
  database: string;
  migrations: string;
  worker: URL;
  lane: LocalLane;
}

/** Does work in threads, each of which keeps the database open; writers take turns in one lane. */
export function threadJobs({
  database,
  migrations,
  worker,
  lane,
}: ThreadOptions): Jobs<AllJobs> & { close: () => Promise<void> } {
  const isSource = worker.pathname.endsWith('.ts');
  const common = {
    filename: worker.href,
    idleTimeout: 60_000,
    ...(isSource && { execArgv: ['--import', 'tsx'] }),
  };
  // Both are there at any time: starting one takes longer than most of what somebody waits for.
  const quick = new Piscina({ ...common, minThreads: 2, maxThreads: 2 });
  const aside = new Piscina({
    ...{ ...common, minThreads: 0, maxThreads: 1 },
    niceIncrement: NICE,
  });
  const long = new Piscina({
    ...common,
    minThreads: 0,
    maxThreads: 2,
    resourceLimits: { maxOldGenerationSizeMb: MAX_MEMORY },
  });
  const quiet = new Quiet();
  const inPool = async (name: keyof AllJobs, give: (pool: Piscina) => Promise<ThreadResult>) => {
    if (QUICK.has(name)) return give(quick);
    if (!ASIDE.has(name)) return quiet.during(() => give(long));
    await quiet.come();
    return give(aside);
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
      try {
        const options = { transferList: [port2], ...(signal && { signal }) };
        const answer = await inPool(
          name,
          (pool) => pool.run(given, options) as Promise<ThreadResult>,
        );
        if (!answer.ok) throw new FormatError(answer.message);
        return answer.result as never;
      } catch (error) {
        if (signal?.aborted) throw new Stopped('This was stopped.');
        if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
          throw new FormatError(TOO_LARGE);
        throw error;
      } finally {
        port1.close();
      }
    },
    async close() {
      await Promise.all([quick, aside, long].map((pool) => pool.destroy()));
    },
  };
}
