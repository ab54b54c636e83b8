import { readFileSync } from 'node:fs';
import type { MailSettings } from '@carafe/contract';

/** How emails leave, with all that is needed for it. Plain data, for threads. */
export interface Way {
  host: string;
  port: number;
  secure: boolean;
  /** The stand-in speaks no TLS. */
  plain: boolean;
  /** A password is not said before the connection is encrypted. */
  onlyEncrypted: boolean;
  auth: { user: string; pass: string } | null;
  dkim: { domain: string; selector: string; keyFile: string } | null;
  /** What it is called in sentences. */
  where: string;
}

/** Whether a host is this very machine: what is said to it leaves by no wire. */
export const isThisMachine = (host: string): boolean =>
  /^(?:localhost|127(?:\.\d{1,3}){3}|::1|\[::1\])$/i.test(host);

/** A server that does not answer is not waited for longer, in milliseconds. */
const TIMEOUT_MS = 10_000;

export function mailboxWay(port: number): Way {
  return {
    ...{ host: '127.0.0.1', port, secure: false, plain: true, auth: null, dkim: null },
    onlyEncrypted: false,
    where: 'The stand-in mailbox',
  };
}

export function serverWay(
  { host, port, tls, user }: Extract<MailSettings['server'], { kind: 'smtp' }>,
  password: string | null,
  dkim: Way['dkim'],
): Way {
  return {
    ...{ host, port, secure: tls, plain: false, dkim, where: `${host}:${port}` },
    auth: user === '' ? null : { user, pass: password ?? '' },
    onlyEncrypted: user !== '' && !isThisMachine(host),
  };
}

/** The options of a nodemailer transport. */
export function transportFor({
  host,
  port,
  secure,
  plain,
  auth,
  dkim,
  onlyEncrypted,
}: Way): object {
  return {
    ...{ host, port, secure, connectionTimeout: TIMEOUT_MS, greetingTimeout: TIMEOUT_MS },
    socketTimeout: TIMEOUT_MS,
    ...(plain && { ignoreTLS: true }),
    ...(onlyEncrypted && { requireTLS: true }),
    ...(auth && { auth }),
    ...(dkim && {
      dkim: {
        domainName: dkim.domain,
        keySelector: dkim.selector,
        privateKey: readFileSync(dkim.keyFile, 'utf8'),
      },
    }),
  };
}
