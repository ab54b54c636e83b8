import type { Template } from '@carafe/core/template';
import type { FromWorker, Shown, ToWorker } from './messages';

/** A worker, the template that it was told already, and what it has said since. */
export interface Started {
  worker: Worker;
  told: Template | null;
  said: FromWorker[];
}

let spare: Started | null = null;

function started(): Started {
  const worker = new Worker(new URL('./desk.worker.ts', import.meta.url), { type: 'module' });
  const one: Started = { worker, told: null, said: [] };
  worker.onmessage = ({ data }: MessageEvent<FromWorker>) => one.said.push(data);
  return one;
}

/** Starts a worker for the desk that opens next: it reads its code while the template is on its way. */
export function prepareWorker(): void {
  spare ??= started();
}

/**
 * Tells the template as soon as it is there: it is built while it is read and the desk is drawn. Gives what says
 * which template it was found to be, once it is read: that one is not told again.
 */
export function tellAhead(stored: Template): (read: Template) => void {
  prepareWorker();
  const one = spare;
  if (!one) return () => undefined;
  const text = JSON.stringify(stored);
  // Whoever was shown before may be of another shop.
  one.worker.postMessage({ type: 'show', shown: null } satisfies ToWorker);
  one.worker.postMessage({ type: 'template', template: stored } satisfies ToWorker);
  return (read) => {
    if (JSON.stringify(read) === text) one.told = read;
  };
}

/** Tells who will be shown, where nobody has taken the worker yet: their data comes while the desk is drawn. */
export function showAhead(shown: Shown): void {
  spare?.worker.postMessage({ type: 'show', shown } satisfies ToWorker);
}

/** The worker that was prepared, or one that starts now. Whoever takes it ends it. */
export function takeWorker(): Started {
  const one = spare ?? started();
  spare = null;
  return one;
}
