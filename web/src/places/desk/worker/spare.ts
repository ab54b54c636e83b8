let spare: Worker | null = null;

const started = (): Worker =>
  new Worker(new URL('./desk.worker.ts', import.meta.url), { type: 'module' });

/** Starts a worker for the desk that opens next: it reads its code while the template is on its way. */
export function prepareWorker(): void {
  spare ??= started();
}

/** The worker that was prepared, or one that starts now. Whoever takes it ends it. */
export function takeWorker(): Worker {
  const worker = spare ?? started();
  spare = null;
  return worker;
}
