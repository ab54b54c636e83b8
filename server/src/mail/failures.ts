type Failure = Error & { code?: string; responseCode?: number; command?: string };

/** What went wrong with a mail server, and the way out. */
export function inWords(error: unknown, where: string): string {
  const { code, responseCode, message } = error as Failure;
  switch (code) {
    case 'ECONNECTION':
    case 'ESOCKET':
    case 'ECONNREFUSED':
      return /certificate|self.signed|altname/i.test(message)
        ? `${where} shows a certificate that cannot be trusted. Check the host name.`
        : /wrong version|ssl|tls/i.test(message)
          ? `${where} does not speak TLS there. Switch “TLS from the first byte” off, or use another port.`
          : `Nothing answers at ${where}. Check the host and the port.`;
    case 'EDNS':
    case 'ENOTFOUND':
      return `There is no host by the name of ${where}. Check how it is written.`;
    case 'ETIMEDOUT':
      return `${where} does not answer in time. Check the host, the port and TLS.`;
    case 'EAUTH':
      return `${where} does not let the user in. Check the user, and the password in CARAFE_SMTP_PASSWORD.`;
    case 'EENVELOPE':
      return `${where} does not take the address${responseCode ? ` (${responseCode})` : ''}.`;
    case 'EMESSAGE':
      return `${where} does not take the mail${responseCode ? ` (${responseCode})` : ''}.`;
    default:
      return `${where} answers in a way that Carafe does not understand${responseCode ? ` (${responseCode})` : ''}. Nothing was sent.`;
  }
}

const codeOf = (error: unknown): number => (error as Failure).responseCode ?? 0;

/** The server said no to this address or mail for good (5xx to RCPT or DATA). */
export function isRefused(error: unknown): boolean {
  const { code } = error as Failure;
  return codeOf(error) >= 500 && (code === 'EENVELOPE' || code === 'EMESSAGE');
}

/** Nothing is taken from anybody now: no use in trying the next mail. */
export function isDoorShut(error: unknown): boolean {
  const { code } = error as Failure;
  return code !== 'EENVELOPE' && code !== 'EMESSAGE';
}

/** The server said something, and not that it takes the mail. */
export const isAnswered = (error: unknown): boolean => codeOf(error) > 0;
