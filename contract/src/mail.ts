import { z } from 'zod';
import { endpoint } from './endpoint';

const Address = z
  .string()
  .trim()
  .max(320, 'An address has at most 320 letters.')
  .regex(/^[^\s@<>(),;:"\\]+@[^\s@<>(),;:"\\]+$/, 'An address is of the form name@shop.example.');

const Host = z
  .string()
  .trim()
  .min(1, 'A mail server has a host name.')
  .max(255)
  .regex(/^[a-z0-9.:_-]+$/i, 'A host name is letters, digits, dots and dashes.');

/** How mails leave, and to whom tests may go. */
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
});
export type MailSettings = z.infer<typeof MailSettings>;

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
    summary: 'How mails leave; whether a password is known, never which',
    answer: z.object({ settings: MailSettings, password: z.boolean() }),
  }),
  changeMailSettings: endpoint({
    method: 'PUT',
    path: '/mail/settings',
    summary: 'Change how mails leave',
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
    summary: 'A mail to oneself: the template as it is, filled for a recipient',
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
