import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { LiveUpdates } from '../live/liveUpdates';
import type { JobsRepository, NewJob, QueuedJob } from './jobsRepository';

const MINUTE = 60_000;
/** After so many tries a job waits for somebody. */
export const MOST_ATTEMPTS = 8;
/** Later than anything: what waits for somebody is not tried again by itself. */
const NEVER = Number.MAX_SAFE_INTEGER;

/** When a job is tried again after so many tries: 1, 4, 16 minutes, 1 hour, 4, 6, 6 hours. */
export const pauseAfter = (attempts: number): number => Math.min(360, 4 ** (attempts - 1)) * MINUTE;

/** How one kind of job is done, and how long it may take, in milliseconds. */
export interface JobKind {
  /** In sentences: “Fetching a source”. */
  name: string;
  limit: number;
  run(job: QueuedJob): Promise<void>;
}

interface QueueDependencies {
  store: Pick<Store, 'write'>;
  queuedJobs: JobsRepository;
  updates: LiveUpdates;
  log: Logger;
  now: () => Date;
  newId: () => string;
}

/** Why something failed, in a sentence that says nothing of the machine. */
export function reasonOf(error: unknown): string {
  if (error instanceof Refusal) return error.message;
  const { name, message } = error as Error;
  return `${name === 'SyntaxError' ? 'Its stored data is damaged' : 'It failed'} (${message.slice(0, 200)}).`;
}

/** The one loop: claims jobs that are due, runs them beside each other, and sets aside what fails. */
export class JobQueue {
  private readonly kinds = new Map<string, JobKind>();
  private readonly running = new Map<number, Promise<void>>();
  /** What somebody waits for, one after the other for the same thing. */
  private readonly asked = new Map<string, Promise<void>>();
  private readonly holder: string;
  private hasBegun = false;

  constructor(private readonly given: QueueDependencies) {
    this.holder = given.newId();
  }

  register(kind: string, how: JobKind): void {
    this.kinds.set(kind, how);
  }

  nameOf(kind: string): string {
    return this.kinds.get(kind)?.name ?? kind;
  }

  async add(job: NewJob): Promise<void> {
    await this.given.store.write(() => this.given.queuedJobs.add(job));
    await this.tick();
  }

  /**
   * Does a job now and waits for it to be tried; what fails is set aside. One of its kind for the same thing that is under
   * way ends first; one that was set aside is begun anew.
   */
  doNow(job: Omit<NewJob, 'runAt'>): Promise<void> {
    const about = `${job.kind} ${job.key}`;
    const before = this.asked.get(about) ?? Promise.resolve();
    const turn = before.catch(() => undefined).then(() => this.doAnew(job));
    this.asked.set(about, turn);
    const forget = () => this.asked.get(about) === turn && this.asked.delete(about);
    void turn.then(forget, forget);
    return turn;
  }

  private async doAnew(job: Omit<NewJob, 'runAt'>): Promise<void> {
    const { store, queuedJobs, now } = this.given;
    const work = () => this.running.get(queuedJobs.idOf(job.kind, job.key) ?? -1);
    await work();
    await store.write(() => queuedJobs.addAnew({ ...job, runAt: now().getTime() }));
    await this.tick();
    await work();
  }

  /** Begins whatever is due. What runs already is not begun again. */
  async tick(): Promise<void> {
    const { store, queuedJobs, now } = this.given;
    if (!this.hasBegun) {
      this.hasBegun = true;
      // One server works on a folder: whoever held a job before is no longer there.
      await store.write(() => queuedJobs.freeAll());
    }
    const at = now().getTime();
    for (const job of queuedJobs.due(at)) {
      const kind = this.kinds.get(job.kind);
      if (!kind || this.running.has(job.id)) continue;
      const until = at + 2 * kind.limit;
      if (!(await store.write(() => queuedJobs.claim(job.id, this.holder, at, until)))) continue;
      const work = this.run(job, kind).finally(() => this.running.delete(job.id));
      this.running.set(job.id, work);
    }
  }

  private async run(job: QueuedJob, { run, limit, name }: JobKind): Promise<void> {
    const { store, queuedJobs, updates, log, now } = this.given;
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_, fail) => {
      timer = setTimeout(
        () => fail(new Error(`${name} took longer than ${Math.round(limit / MINUTE)} minutes`)),
        limit,
      );
      timer.unref();
    });
    try {
      await Promise.race([run(job), late]);
      await store.write(() => queuedJobs.done(job.id));
    } catch (error) {
      if (!(error instanceof Refusal)) log.error(error);
      const at = now().getTime();
      const attempts = job.attempts + 1;
      const again = attempts >= MOST_ATTEMPTS ? NEVER : at + pauseAfter(attempts);
      await store
        .write(() => queuedJobs.failed(job.id, reasonOf(error), at, again))
        // Where not even that can be written, its lease runs out, and it is tried again.
        .catch((failure: unknown) => log.error(failure));
    } finally {
      clearTimeout(timer);
      updates.publish({ type: 'outbox' });
    }
  }

  /** Waits for what runs now. */
  async idle(): Promise<void> {
    await Promise.all(this.running.values());
  }

  async retry(id: number): Promise<void> {
    const { store, queuedJobs, now } = this.given;
    await store.write(() => {
      if (!queuedJobs.find(id)) throw new Refusal(404, 'This is no longer waiting.');
      queuedJobs.retry(id, now().getTime());
    });
    await this.tick();
    await this.idle();
  }

  async drop(id: number): Promise<void> {
    const { store, queuedJobs, updates } = this.given;
    await store.write(() => queuedJobs.done(id));
    updates.publish({ type: 'outbox' });
  }
}
