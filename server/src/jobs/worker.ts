import type { MessagePort } from 'node:worker_threads';
import { plainErrors } from '@carafe/core/errors';
import { FormatError } from '@carafe/core/formats';
import { RemoteLane, type WriteLane } from '../database/lane';
import { openStore } from '../database/store';
import { readingBeside } from '../imports/readBeside';
import { foldingBeside } from '../people/foldBeside';
import { openRepositories } from '../repositories';
import { jobHandlers, type AllJobs } from './handlers';
import type { JobHandlers } from './jobs';

export interface ThreadTask {
  database: string;
  migrations: string;
  name: keyof AllJobs;
  task: AllJobs[keyof AllJobs]['task'];
  port: MessagePort;
  /** How many wait for the lane of writers. */
  waiting: SharedArrayBuffer;
}

/** Errors lose their class between threads: what a person can put right is told apart by this. */
export type ThreadResult = { ok: true; result: unknown } | { ok: false; message: string };

/** The lane of the work that is done now: a thread does one piece of work at a time. */
let lane: WriteLane | null = null;
const current: WriteLane = {
  turn: (work) => {
    if (!lane) throw new Error('Nothing is done in this thread now.');
    return lane.turn(work);
  },
  isWanted: () => lane?.isWanted() ?? false,
};

/** Where the threads are that read and fold for this one. */
const ending = import.meta.url.endsWith('.ts') ? 'ts' : 'js';
const READER = new URL(`./reader.${ending}`, import.meta.url);
const FOLDER = new URL(`./folder.${ending}`, import.meta.url);
let opened: { database: string; handlers: JobHandlers<AllJobs> } | null = null;

/** The handlers over the database, which stays open for the next piece of work. */
function handlersFor({ database, migrations }: ThreadTask): JobHandlers<AllJobs> {
  if (opened?.database !== database) {
    plainErrors();
    const store = openStore(database, migrations, current);
    const parts = { ...openRepositories(store.db), folding: foldingBeside(FOLDER) };
    opened = { database, handlers: jobHandlers(store, parts, readingBeside(READER)) };
  }
  return opened.handlers;
}

const PROGRESS_MS = 100;

/** The thread's side: one piece of work. */
export default async function run(given: ThreadTask): Promise<ThreadResult> {
  const { name, task, port } = given;
  lane = new RemoteLane(port, given.waiting);
  let told = 0;
  try {
    const handler = handlersFor(given)[name] as JobHandlers<
      Record<string, AllJobs['look']>
    >[string];
    const result = await handler(task as never, (rows) => {
      const now = performance.now();
      if (now - told < PROGRESS_MS) return;
      told = now;
      port.postMessage(rows);
    });
    return { ok: true, result };
  } catch (error) {
    if (error instanceof FormatError) return { ok: false, message: error.message };
    throw error;
  } finally {
    lane = null;
    port.close();
  }
}
