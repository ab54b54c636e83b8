import type { MessagePort } from 'node:worker_threads';
import { FormatError } from '@carafe/core/formats';
import { openStore } from '../db';
import { doWork, type Work, type WorkName } from './work';

export interface ThreadTask {
  database: string;
  migrations: string;
  name: WorkName;
  task: Work[WorkName]['task'];
  port: MessagePort;
}

/** Errors lose their class between threads: what a person can put right is told apart by this. */
export type ThreadResult = { ok: true; result: unknown } | { ok: false; message: string };

/** The thread's side: one piece of work over a connection of its own. */
export default async function run(given: ThreadTask): Promise<ThreadResult> {
  const { database, migrations, name, task, port } = given;
  const store = openStore(database, migrations);
  let told = 0;
  try {
    const result = await doWork(store, name, task, (rows) => {
      const now = performance.now();
      if (now - told < 100) return;
      told = now;
      port.postMessage(rows);
    });
    return { ok: true, result };
  } catch (error) {
    if (error instanceof FormatError) return { ok: false, message: error.message };
    throw error;
  } finally {
    store.db.close();
    port.close();
  }
}
