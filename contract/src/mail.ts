import { z } from 'zod';
import { endpoint, OfVersion } from './endpoint';

const Address = z
  .string()
  .trim()
  .max(320, 'An address has at most 320 letters.')
  .regex(/^[^\s@<>(),;:"\\]+@[^\s@<>(),;:"\\]+$/, 'An address looks like name@shop.example.');

const Host = z
  .string()
  .trim()
  .min(1, 'A mail server has a host name.')
  .max(255)
  .regex(/^[a-z0-9.:_-]+$/i, 'A host name is letters, digits, dots and dashes.');

const Domain = z
  .string()
  .trim()
  .min(1, 'Say the domain that emails are signed for.')
  .max(255)
  .regex(/^[a-z0-9.-]*$/i, 'A domain is letters, digits, dots and dashes.');

/** Email settings, and to whom tests may go. */
export const MailSettings = z.strictObject({
  /** The stand-in mailbox, or a server of one's own. */
  server: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('mailbox') }),
    z.strictObject({
      kind: z.literal('smtp'),
      host: Host,
      port: z.number().int().min(1, 'A port is from 1 to 65535.').max(65_535),
      /** TLS from the first byte; else STARTTLS where the server offers it. */
      tls: z.boolean(),
      user: z.string().max(200),
    }),
  ]),
  /** Tests go to these alone. */
  test_addresses: z
    .array(Address)
    .min(1, 'Tests need an address to go to.')
    .max(50, 'At most 50 addresses.'),
  /** Whatever is sent goes to the stand-in mailbox, and to nobody else. */
  test_only: z.boolean(),
  /** Where links in mails lead to Carafe; this machine where it is left out. */
  public_url: z
    .url({ protocol: /^https?$/, error: 'An address begins with http:// or https://.' })
    .max(300)
    .optional(),
  /** So many mails a minute at most; 0 means as many as the mail server accepts. */
  per_minute: z.number().int().min(0).max(100_000, 'At most 100,000 emails a minute.'),
  /** Of people who agreed to marketing: clicks by a redirect, opens by a picture of one pixel. */
  count_clicks: z.boolean(),
  count_opens: z.boolean(),
  /** Links in mails stop working after so many days; unsubscribing always works. */
  links_days: z.number().int().min(1).max(3650, 'At most 3,650 days.'),
  /** What becomes of a mail that was in the mail server’s hands when Carafe was stopped. */
  in_doubt: z.enum(['ask', 'sent', 'again']),
  /** Signs mails (DKIM, RFC 6376) with the key in CARAFE_DKIM_KEY_FILE. */
  dkim: z
    .strictObject({
      domain: Domain,
      selector: z
        .string()
        .trim()
        .min(1, 'Say the selector, as it stands in the domain’s records.')
        .max(63, 'A selector has at most 63 letters.')
        .regex(/^[a-z0-9._-]*$/i, 'A selector is letters, digits, dots and dashes.'),
    })
    .optional(),
  /** Bytes of sent mails are kept so long. */
  keep_days: z.number().int().min(1).max(3650, 'At most 3,650 days.'),
});
export type MailSettings = z.infer<typeof MailSettings>;

/** Whether whatever is sent stays in the stand-in mailbox. */
export const staysHere = ({ test_only, server }: MailSettings): boolean =>
  test_only || server.kind === 'mailbox';

const Received = z.object({
  id: z.string(),
  received_at: z.iso.datetime(),
  from: z.string(),
  to: z.array(z.string()),
  subject: z.string(),
});
export type Received = z.infer<typeof Received>;

const ReceivedMail = Received.extend({
  html: z.string(),
  text: z.string(),
  /** As they stand in the mail, one a line. */
  headers: z.string(),
  source: z.string(),
});
export type ReceivedMail = z.infer<typeof ReceivedMail>;

export const mailEndpoints = {
  mailSettings: endpoint({
    method: 'GET',
    path: '/mail/settings',
    summary: 'Email settings; whether a password and a key are known, never which',
    answer: z.object({
      settings: MailSettings,
      version: z.string(),
      password: z.boolean(),
      /** Whether a file of a key for DKIM was named. */
      dkim_key: z.boolean(),
      /** Where links lead while no public address is said. */
      self: z.string(),
    }),
  }),
  changeMailSettings: endpoint({
    method: 'PUT',
    path: '/mail/settings',
    summary: 'Change how emails leave',
    query: OfVersion,
    body: MailSettings,
    answer: MailSettings,
  }),
  tryMailServer: endpoint({
    method: 'POST',
    path: '/mail/try',
    summary: 'Whether the mail server answers and lets Carafe in, in words',
    body: MailSettings,
    answer: z.object({ ok: z.boolean(), message: z.string() }),
  }),
  sendTest: endpoint({
    method: 'POST',
    path: '/mail/tests',
    summary: 'An email to oneself: the template as it is, filled for a recipient',
    body: z.strictObject({
      template: z.unknown(),
      /** The recipient that it is filled for, by id. */
      person: z.number().int(),
      to: Address,
      as_of: z.iso.datetime({ offset: true }).or(z.iso.date()).optional(),
      /** “Test: ” before the subject. */
      marked: z.boolean().optional(),
    }),
    answer: z.object({ message_id: z.string(), to: z.string(), mailbox: z.boolean() }),
  }),
  listMailbox: endpoint({
    method: 'GET',
    path: '/mailbox',
    summary: 'What the stand-in mailbox took in, the latest first',
    answer: z.object({ mails: z.array(Received) }),
  }),
  readMailbox: endpoint({
    method: 'GET',
    path: '/mailbox/:id',
    summary: 'One mail of the stand-in mailbox',
    answer: ReceivedMail,
  }),
  emptyMailbox: endpoint({
    method: 'DELETE',
    path: '/mailbox',
    summary: 'Empty the stand-in mailbox',
    answer: null,
  }),
};
