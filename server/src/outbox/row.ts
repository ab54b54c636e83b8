import type { OutboxState } from '@carafe/contract';
import type { About } from '@carafe/core/occasion';
import type { HoldReason } from '@carafe/core/sending';

/** An email of the outbox, as it is stored. */
export interface OutboxRow {
  id: string;
  key: string;
  shop: string;
  email: string;
  recipient: 'person' | 'owner';
  mail: 'marketing' | 'service';
  occasion: string;
  version: number;
  cause: string;
  step: string;
  /** JSON. */
  about: string;
  beside: string;
  template: string;
  published: number | null;
  state: OutboxState;
  reason: string | null;
  subject: string | null;
  to_address: string | null;
  message_id: string | null;
  attempts: number;
  made_at: string;
  /** Milliseconds. */
  next_at: number;
  sent_at: string | null;
  test_only: number;
  tracked: number;
  opened_at: string | null;
  clicked_at: string | null;
  priority: number;
  /** When it was handed over, in milliseconds. */
  went_at: number | null;
  /** Why it waits for approval. */
  hold: HoldReason | null;
  /** For which reasons somebody approved it, with spaces between. */
  approved: string;
  /** What the person is called, in lists. */
  name?: string | null;
}

export const aboutOf = ({ about }: OutboxRow): About => JSON.parse(about) as About;
/** For which reasons somebody approved an email; `switched_off`: though its occasion is off. */
export const approvedFor = ({
  approved,
}: Pick<OutboxRow, 'approved'>): ReadonlySet<HoldReason | 'switched_off'> =>
  new Set(approved.split(' ') as (HoldReason | 'switched_off')[]);
