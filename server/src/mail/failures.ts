type Failure = Error & {
  code?: string;
  responseCode?: number;
  command?: string;
  response?: string;
};

/** The mail server's own words, as it said them, on one line. */
function ownWords(error: unknown): string {
  const { response = '' } = error as Failure;
  const words = response
    .replace(/[\u0000-\u001f\u007f]+/g, ' ')
    .trim()
    .slice(0, 300);
  // What is no reply of a mail server is nobody's words.
  return /^\d{3}[ -]/.test(words) ? ` It said: “${words}”.` : '';
}

/** What went wrong with a mail server, and the way out, with what the server said. */
export const inWords = (error: unknown, where: string): string =>
  `${whatWentWrong(error, where)}${ownWords(error)}`;

function whatWentWrong(error: unknown, where: string): string {
  const { code, responseCode, message } = error as Failure;
  if (asksForLogin(error))
    return `${where} requires a login. Set the user under “Email settings”, and the password in CARAFE_SMTP_PASSWORD.`;
  if (code === 'ETLS')
    return `${where} offers no encryption (STARTTLS), and the password is not sent without it. Switch “TLS from the first byte” on, or use another port.`;
  if (isTooLarge(error))
    return `${where} does not accept emails of this size. Make the email smaller.`;
  if (responseCode === 421) return `${where} is closed for now (421). Try again later.`;
  switch (code) {
    case 'ECONNECTION':
    case 'ESOCKET':
    case 'ECONNREFUSED':
      return /certificate|self.signed|altname/i.test(message)
        ? `${where} has a certificate that cannot be trusted. Check the host name.`
        : /wrong version|ssl|tls/i.test(message)
          ? `${where} does not use TLS on this port. Switch “TLS from the first byte” off, or use another port.`
          : /closed|reset|EPIPE|hang up/i.test(message)
            ? `${where} closed the connection. Try again later.`
            : `Nothing answers at ${where}. Check the host and the port.`;
    case 'EDNS':
    case 'ENOTFOUND':
      return `No host is called ${where}. Check the spelling.`;
    case 'ETIMEDOUT':
      return `${where} does not answer in time. Check the host, the port and TLS.`;
    case 'EAUTH':
      return `${where} rejects the login. Check the user, and the password in CARAFE_SMTP_PASSWORD.`;
    case 'EENVELOPE':
      if (whatIsRefused(error) === 'sender')
        return `${where} does not accept emails from this sender (${responseCode ?? 'no code'}). Check the sender’s address in the template, and which senders the server allows.`;
      return `${where} does not accept the address${responseCode ? ` (${responseCode})` : ''}.`;
    case 'EMESSAGE':
      return `${where} does not accept the email${responseCode ? ` (${responseCode})` : ''}.`;
    default:
      return `${where} answers in a way that Carafe does not understand${responseCode ? ` (${responseCode})` : ''}. Nothing was sent.`;
  }
}

const codeOf = (error: unknown): number => (error as Failure).responseCode ?? 0;

/** The server takes nothing from somebody whom it does not know (RFC 4954: 530; 550 or 553 of some, with 5.7.1 “authentication required”). */
export function asksForLogin(error: unknown): boolean {
  const { code, command, response = '' } = error as Failure;
  const reply = codeOf(error);
  if (code !== 'EENVELOPE' && code !== 'EMESSAGE') return false;
  if (reply === 530) return true;
  return (
    command === 'MAIL FROM' &&
    reply >= 500 &&
    /auth(?:entication|enticate)?\b.*required|log ?in/i.test(response)
  );
}

/** Larger than the server said that it takes (RFC 1870). */
export const isTooLarge = (error: unknown): boolean =>
  (error as Failure).code === 'EMESSAGE' &&
  /size larger than allowed/i.test((error as Failure).message);

/** A connection that stood was lost: the next one may stand. */
export function isDropped(error: unknown): boolean {
  const { code, message } = error as Failure;
  // A server that says that it closes is not to be spoken to now.
  if (codeOf(error) === 421) return false;
  return (
    ['ECONNECTION', 'ESOCKET', 'ECONNRESET', 'EPIPE'].includes(code ?? '') &&
    /closed|reset|EPIPE|hang up/i.test(message)
  );
}

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
  if (isTooLarge(error)) return 'mail';
  if (asksForLogin(error)) return null;
  if (reply < 500 || (code !== 'EENVELOPE' && code !== 'EMESSAGE')) return null;
  if (command === 'MAIL FROM') return 'sender';
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
  return (
    (code !== 'EENVELOPE' && code !== 'EMESSAGE') || codeOf(error) === 421 || asksForLogin(error)
  );
}

/** The server said something, and not that it takes the mail. */
export const isAnswered = (error: unknown): boolean => codeOf(error) > 0;
