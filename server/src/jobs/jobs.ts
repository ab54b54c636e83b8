/** A kind of work that is done beside the server: what it is told and what it gives, plain data both. */
export interface Job<T, R> {
  task: T;
  result: R;
}
type TaskOf<J> = J extends Job<infer T, unknown> ? T : never;
type ResultOf<J> = J extends Job<never, infer R> ? R : J extends { result: infer R } ? R : never;

/** Is told how many rows are done; throws where the work should end. */
export type Progress = (rows: number) => void | Promise<void>;

export interface RunOptions {
  progress?: (rows: number) => void;
  signal?: AbortSignal;
}

/** Does work somewhere, so that the server stays quick. */
export interface Jobs<M> {
  run<K extends keyof M>(
    name: K,
    task: TaskOf<M[K]>,
    options?: RunOptions,
  ): Promise<ResultOf<M[K]>>;
}

/** How each kind of work is done. */
export type JobHandlers<M> = {
  [K in keyof M]: (
    task: TaskOf<M[K]>,
    progress: Progress,
  ) => ResultOf<M[K]> | Promise<ResultOf<M[K]>>;
};

/** Work that somebody ended. */
export class Stopped extends Error {
  override name = 'Stopped';
}
