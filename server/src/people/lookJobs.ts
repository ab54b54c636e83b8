import type { RankStanding, RecipientFacets, RecipientList } from '@carafe/contract';
import type { Job } from '../jobs/jobs';
import type { Wanted } from './listing';

export interface RecipientsTask {
  shop: string;
  wanted: Wanted;
  limit: number;
  offset: number;
}
/** Looks at the people of a shop that take long where they are many. */
export interface PeopleLookJobs {
  recipients: Job<RecipientsTask, RecipientList>;
  standing: Job<{ shop: string; email: string }, RankStanding | null>;
  facets: Job<{ shop: string }, RecipientFacets>;
}
