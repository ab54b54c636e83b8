type Failure = Error & {
  code?: string;
  responseCode?: number;
  command?: string;
  response?: string;
};

/** What went wrong with a mail server, and the way out. */
export function inWords(error: unknown, where: string): string {
  const { code, responseCode, message } = error as Failure;
  if (responseCode === 421) return `${where} is closed for now (421). Try again later.`;
  switch (code) {
    case 'ECONNECTION':
    case 'ESOCKET':
    case 'ECONNREFUSED':
      return /certificate|self.signed|altname/i.test(message)
        ? `${where} shows a certificate that cannot be trusted. Check the host name.`
        : /wrong version|ssl|tls/i.test(message)
          ? `${where} does not speak TLS there. Switch “TLS from the first byte” off, or use another port.`
          : /closed|reset|EPIPE|hang up/i.test(message)
            ? `${where} broke the connection off. Try again later.`
            : `Nothing answers at ${where}. Check the host and the port.`;
    case 'EDNS':
    case 'ENOTFOUND':
      return `There is no host by the name of ${where}. Check how it is written.`;
    case 'ETIMEDOUT':
      return `${where} does not answer in time. Check the host, the port and TLS.`;
    case 'EAUTH':
      return `${where} does not let the user in. Check the user, and the password in CARAFE_SMTP_PASSWORD.`;
    case 'EENVELOPE':
      if (whatIsRefused(error) === 'sender')
        return `${where} takes no mails from this sender (${responseCode ?? 'no code'}). Check the sender’s address of the template, and from whom the server lets you send.`;
      return `${where} does not take the address${responseCode ? ` (${responseCode})` : ''}.`;
    case 'EMESSAGE':
      return `${where} does not take the mail${responseCode ? ` (${responseCode})` : ''}.`;
    default:
      return `${where} answers in a way that Carafe does not understand${responseCode ? ` (${responseCode})` : ''}. Nothing was sent.`;
  }
}

const codeOf = (error: unknown): number => (error as Failure).responseCode ?? 0;

/** What a mail server says no to for good: to whom a mail goes, whom it is from, or the mail. */
export type Refused = 'address' | 'sender' | 'mail';

/** Codes of RFC 3463 behind the reply’s own: `550 5.1.1 …`. */
const DETAIL = /^\d{3}[ -](5\.\d{1,3}\.\d{1,3})/;
/** Replies to an address, without more detail, that are about its mailbox (RFC 5321, 4.2.3). */
const NO_MAILBOX = [550, 551, 553];

/**
 * What was refused for good (5xx); null where nothing was. Only an address that is none is never written to again: a full
 * mailbox, a mail that is taken for spam, a sender or a user that the server does not know say nothing of whom it was for.
 */
export function whatIsRefused(error: unknown): Refused | null {
  const { code, command, response = '' } = error as Failure;
  const reply = codeOf(error);
  if (reply < 500 || (code !== 'EENVELOPE' && code !== 'EMESSAGE')) return null;
  if (command === 'MAIL FROM' || reply === 530) return 'sender';
  const detail = DETAIL.exec(response)?.[1];
  const isAddress = command === 'RCPT TO';
  if (detail === undefined) return isAddress && NO_MAILBOX.includes(reply) ? 'address' : 'mail';
  if (/^5\.1\.[78]$/.test(detail)) return 'sender';
  if (/^5\.(?:1\.\d+|2\.1)$/.test(detail)) return 'address';
  return isAddress && detail.startsWith('5.7.') ? 'sender' : 'mail';
}

/** Nothing is taken from anybody now: no use in trying the next mail. A 421 is said by a server that closes. */
export function isDoorShut(error: unknown): boolean {
  const { code } = error as Failure;
  return (code !== 'EENVELOPE' && code !== 'EMESSAGE') || codeOf(error) === 421;
}

/** The server said something, and not that it takes the mail. */
export const isAnswered = (error: unknown): boolean => codeOf(error) > 0;
