import type { OutboxState } from '@carafe/contract';
import type { Job } from '../jobs/jobs';
import type { OutboxRepository } from '../outbox/repository';
import type { Inside, StatesRepository } from './statesRepository';

/** What occasions come to at the moment, by their ids. */
export interface OccasionCounts {
  inside: number;
  /** Who may come in once it is time. */
  armed: number;
  /** When somebody is looked at next, in milliseconds. */
  next: number | null;
  /** Who waits before which step. */
  waiting: Record<string, number>;
  /** Who is inside, by the version that they go by. */
  versions: { version: number; people: number }[];
  mails: { step: string; state: OutboxState; count: number }[];
}
export interface CountJobs {
  occasionCounts: Job<{ ids: string[] }, Record<string, OccasionCounts>>;
  /** Who is inside of an occasion, the next to be looked at first. */
  insidePage: Job<{ occasion: string; limit: number; offset: number }, Inside[]>;
}
interface Parts {
  states: Pick<StatesRepository, 'insideCounts'>;
  outbox: Pick<OutboxRepository, 'steps'>;
}

/** Counts who is inside of occasions and what they sent. */
export function countOccasions(parts: Parts, ids: readonly string[]) {
  const counted: Record<string, OccasionCounts> = {};
  for (const id of ids) {
    const counts: OccasionCounts = {
      ...{ inside: 0, armed: 0, next: null, waiting: {}, versions: [] },
      mails: parts.outbox.steps(id),
    };
    const versions = new Map<number, number>();
    for (const { step, version, inside, armed, next } of parts.states.insideCounts(id)) {
      counts.inside += inside;
      counts.armed += armed;
      counts.next = Math.min(counts.next ?? next, next);
      if (step !== null) counts.waiting[step] = (counts.waiting[step] ?? 0) + inside;
      if (inside > 0) versions.set(version, (versions.get(version) ?? 0) + inside);
    }
    counts.versions = [...versions].map(([version, people]) => ({ version, people }));
    counted[id] = counts;
  }
  return counted;
}
