import type { OutboxSummary } from '@carafe/contract';
import type { Job } from '../jobs/jobs';
import type { OutboxPlace, OutboxWanted, PlacedRow } from './lists';
import type { OutboxRow } from './row';

export interface OutboxPageTask {
  wanted: OutboxWanted;
  limit: number;
  offset: number;
}
/** Looks at the outbox that take long where it is large. */
export interface OutboxLookJobs {
  outboxPage: Job<OutboxPageTask, { total: number; rows: OutboxRow[] }>;
  /** The next rows behind one, or the first. */
  outboxAfter: Job<{ wanted: OutboxWanted; last: OutboxPlace | null; most: number }, PlacedRow[]>;
  outboxStates: Job<{ shop: string }, Pick<OutboxSummary, 'states' | 'reasons'>>;
}
