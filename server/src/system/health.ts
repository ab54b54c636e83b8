import { statfsSync } from 'node:fs';
import type { Health } from '@carafe/contract';
import type { StatesRepository } from '../occasions/statesRepository';
import type { OutboxRepository } from '../outbox/repository';
import type { JobsRepository } from '../queue/jobsRepository';
import type { Clock } from '../schedule/clock';

export const VERSION = '0.1.0';

interface HealthDependencies {
  clock: Pick<Clock, 'age'>;
  files: { room: () => Health['waiting_files'] };
  outbox: Pick<OutboxRepository, 'dueFigures'>;
  states: Pick<StatesRepository, 'nextDue'>;
  queuedJobs: Pick<JobsRepository, 'figures'>;
  /** Why no email leaves now; null where nothing keeps them. */
  paused: () => string | null;
  waiting: () => Record<string, number>;
  /** What is stored and cannot be read, in sentences. */
  damaged: () => string[];
  /** The folder of the data; null where it is in memory. */
  folder: string | null;
  now: () => Date;
}

const MINUTE = 60_000;
/** The clock ticks every half minute: later than this, it stands. */
const CLOCK_STANDS_SECONDS = 300;
/** Whatever is due for longer is stuck. */
const STUCK = 15 * MINUTE;
/** With less room on the disk, work begins to fail. */
const LEAST_ROOM = 200_000_000;

const iso = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());

function freeBytes(folder: string | null): number | null {
  if (folder === null) return null;
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  } catch {
    return null; // some file systems do not say
  }
}

/** Whether all is as it should be, and what is not. */
export function healthOf(dependencies: HealthDependencies): Health {
  const { clock, files, outbox, states, queuedJobs, paused, waiting, folder, damaged, now } =
    dependencies;
  const at = now().getTime();
  const age = clock.age();
  const emails = outbox.dueFigures(at);
  const jobs = queuedJobs.figures(at);
  const first = states.nextDue();
  const free = freeBytes(folder);
  const isStuck = (since: number | null) => since !== null && at - since > STUCK;
  const problems = [
    age !== null && age > CLOCK_STANDS_SECONDS
      ? `The clock has not ticked for ${Math.round(age / 60)} minutes, so nothing happens automatically. Start Carafe again.`
      : null,
    free !== null && free < LEAST_ROOM
      ? `Only ${Math.round(free / 1_000_000)} MB are free where the data is. Make room before something is lost.`
      : null,
    isStuck(emails.oldest) && paused() === null
      ? `Emails have been due since ${iso(emails.oldest) ?? ''} and have not been sent. The log says more.`
      : null,
    isStuck(first)
      ? `People have been due since ${iso(first) ?? ''} and have not been processed. The log says more.`
      : null,
    ...damaged(),
  ].filter((problem) => problem !== null);
  return {
    ...{ version: VERSION, ready: problems.length === 0, problems, clock_age_seconds: age },
    waiting_files: files.room(),
    emails: { due: emails.due, oldest_due_at: iso(emails.oldest) },
    jobs: { due: jobs.waiting, oldest_due_at: iso(jobs.oldest), set_aside: jobs.aside },
    people: { first_due_at: iso(first) },
    ...{ threads: waiting(), free_bytes: free },
  };
}
