import { Worker } from 'node:worker_threads';

/** A thread beside may take so much memory, in megabytes. */
export const MAX_MEMORY = 1_500;

/** Starts a thread as it stands in the sources, where nothing was built. */
const fromSource = (href: string) =>
  `import('tsx/esm/api').then(({ tsImport }) => tsImport(${JSON.stringify(href)}, ${JSON.stringify(href)}))`;

/** Starts a thread by its file; `workerData` tells it what to do. */
export function startThread(thread: URL, workerData: unknown): Worker {
  const resourceLimits = { maxOldGenerationSizeMb: MAX_MEMORY };
  const { href } = thread;
  return href.endsWith('.ts')
    ? new Worker(fromSource(href), { workerData, resourceLimits, eval: true })
    : new Worker(thread, { workerData, resourceLimits });
}
