import { z } from 'zod';
import { endpoint } from './endpoint';
import { AskedParts } from './occasions';

export const OUTBOX_STATES = [
  'waiting',
  'held',
  'ready',
  'sending',
  'sent',
  'in_doubt',
  'stopped',
  'bounced',
] as const;
export const OutboxState = z.enum(OUTBOX_STATES);
export type OutboxState = z.infer<typeof OutboxState>;

const OutboxItem = z.object({
  id: z.string(),
  /** Whom it is about; `to` is whom it goes to, once that is known. */
  email: z.string(),
  to: z.string().nullable(),
  recipient: z.enum(['person', 'owner']),
  mail: z.enum(['marketing', 'service']),
  occasion: z.string(),
  occasion_name: z.string(),
  version: z.number(),
  step: z.string(),
  template: z.string(),
  template_name: z.string(),
  /** What the person is called, in lists; null where that is not known. */
  name: z.string().nullable(),
  state: OutboxState,
  reason: z.string().nullable(),
  subject: z.string().nullable(),
  made_at: z.iso.datetime(),
  next_at: z.iso.datetime(),
  sent_at: z.iso.datetime().nullable(),
  opened_at: z.iso.datetime().nullable(),
  clicked_at: z.iso.datetime().nullable(),
  attempts: z.number(),
  /** It went to the stand-in mailbox. */
  test_only: z.boolean(),
  /** The mail server refused it, or it was tried in vain: it can be tried again. */
  ended_by_server: z.boolean(),
});
export type OutboxItem = z.infer<typeof OutboxItem>;

const OutboxStory = z.array(
  z.object({ at: z.iso.datetime(), text: z.string(), parts: AskedParts }),
);
export type OutboxStory = z.infer<typeof OutboxStory>;

const OutboxMail = z.object({
  item: OutboxItem,
  story: OutboxStory,
  html: z.string(),
  text: z.string(),
  headers: z.string(),
  /** Why each block shows. */
  trail: z.unknown(),
  /** Where its counted links lead. */
  links: z.array(z.string()),
  /** Filled for good; else it is shown as it would be filled now. */
  filled: z.boolean(),
  /** Why it would not go, were it to go now. */
  stopped: z.string().nullable(),
});
export type OutboxMail = z.infer<typeof OutboxMail>;

const OutboxSummary = z.object({
  states: z.array(z.object({ state: OutboxState, count: z.number() })),
  /** Why emails were stopped, held or postponed, the most frequent first. */
  reasons: z.array(z.object({ state: OutboxState, reason: z.string(), count: z.number() })),
  /** Why nothing leaves now; null where it does. */
  paused: z.string().nullable(),
  paused_until: z.iso.datetime().nullable(),
  /** Whether whatever is sent stays in the stand-in mailbox. */
  stays_here: z.boolean(),
});
export type OutboxSummary = z.infer<typeof OutboxSummary>;

const OutboxQuery = z.object({
  state: OutboxState.optional(),
  occasion: z.string().optional(),
  step: z.string().optional(),
  email: z.string().optional(),
  /** In address, name and subject. */
  search: z.string().max(200).optional(),
  /** How the reason begins. */
  reason: z.string().max(500).optional(),
});
export type OutboxQuery = z.infer<typeof OutboxQuery>;

/** An address of which a mail server said that there is no such one; no shop writes to it. */
const FailedAddress = z.object({
  email: z.string(),
  at: z.iso.datetime(),
  /** What the mail server said. */
  reason: z.string(),
});
export type FailedAddress = z.infer<typeof FailedAddress>;

export const outboxEndpoints = {
  failedAddresses: endpoint({
    method: 'GET',
    path: '/failed-addresses',
    summary:
      'Addresses that a mail server refused, so that no shop writes to them; the latest first',
    query: z.object({
      q: z.string().max(200).default(''),
      limit: z.coerce.number().int().min(1).max(500).default(100),
      offset: z.coerce.number().int().min(0).default(0),
    }),
    answer: z.object({ total: z.number(), addresses: z.array(FailedAddress) }),
  }),
  allowAddress: endpoint({
    method: 'POST',
    path: '/failed-addresses/allow',
    summary: 'Write to a refused address again',
    body: z.strictObject({ email: z.string().min(1).max(320) }),
    answer: null,
  }),
  listOutbox: endpoint({
    method: 'GET',
    path: '/shops/:shop/outbox',
    summary: 'Emails that were made, the latest first',
    query: OutboxQuery.extend({
      limit: z.coerce.number().int().min(1).max(500).default(100),
      offset: z.coerce.number().int().min(0).default(0),
    }),
    answer: z.object({ total: z.number(), mails: z.array(OutboxItem) }),
  }),
  outboxSummary: endpoint({
    method: 'GET',
    path: '/shops/:shop/outbox/summary',
    summary: 'How many emails there are of each state, and whether they leave',
    answer: OutboxSummary,
  }),
  changeOutbox: endpoint({
    method: 'POST',
    path: '/shops/:shop/outbox/changes',
    summary:
      'Approve emails that are held, stop emails, go on with what was stopped by hand or by the mail server, settle what is in doubt, or send once more what was sent, as a new email of the same cause: some, or all that are asked for',
    body: z.strictObject({
      to: z.enum([
        'approve',
        'stop',
        'go_on',
        'try_again',
        'count_as_sent',
        'send_again',
        'repeat',
      ]),
      ids: z
        .array(z.string())
        .max(10_000, 'At most 10,000 emails at once by their ids.')
        .optional(),
      query: OutboxQuery.optional(),
      /** Even those whose occasion was switched off since; without it, they are refused. */
      even_off: z.boolean().default(false),
    }),
    answer: z.object({ changed: z.number() }),
  }),
  readOutbox: endpoint({
    method: 'GET',
    path: '/outbox/:id',
    summary: 'One mail with its story',
    answer: OutboxMail,
  }),
  settleOutbox: endpoint({
    method: 'POST',
    path: '/outbox/:id/settle',
    summary: 'Say of an email in doubt that it was sent, or have it sent once more',
    body: z.strictObject({ as: z.enum(['sent', 'again']) }),
    answer: null,
  }),
};
