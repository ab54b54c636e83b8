import type { MailSettings } from '@carafe/contract';
import { createTransport, type SendMailOptions, type Transporter } from 'nodemailer';
import { Refusal } from '../http/errors';

/** A server that does not answer is not waited for longer, in milliseconds. */
const TIMEOUT_MS = 10_000;

interface Given {
  settings: () => MailSettings;
  /** Of the mail server; from the environment or a file, never shown. */
  password: () => string | null;
  /** The port of the stand-in mail server; null while it does not stand. */
  mailboxPort: () => number | null;
}

type Failure = Error & { code?: string; responseCode?: number; response?: string };

/** What went wrong with a mail server, and the way out. */
function inWords(error: unknown, where: string): string {
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

/** The one way by which mails leave. */
export class Door {
  constructor(private readonly given: Given) {}

  private transport({ server }: MailSettings): { transport: Transporter; where: string } {
    const waits = {
      connectionTimeout: TIMEOUT_MS,
      greetingTimeout: TIMEOUT_MS,
      socketTimeout: TIMEOUT_MS,
    };
    if (server.kind === 'mailbox') {
      const port = this.given.mailboxPort();
      if (port === null)
        throw new Refusal(503, 'The stand-in mail server is not there yet. Try again in a moment.');
      const transport = createTransport({
        ...{ host: '127.0.0.1', port, secure: false, ignoreTLS: true, ...waits },
      });
      return { transport, where: 'The stand-in mailbox' };
    }
    const { host, port, tls, user } = server;
    const password = this.given.password();
    if (user !== '' && password === null)
      throw new Refusal(
        409,
        'The mail server asks for a password. Give it in CARAFE_SMTP_PASSWORD, or a file in CARAFE_SMTP_PASSWORD_FILE, and start Carafe again.',
      );
    const transport = createTransport({
      ...{ host, port, secure: tls, ...waits },
      ...(user !== '' && { auth: { user, pass: password ?? '' } }),
    });
    return { transport, where: `${host}:${port}` };
  }

  /** Hands a message to the mail server; throws a Refusal that says what went wrong. */
  async send(message: SendMailOptions): Promise<void> {
    const { transport, where } = this.transport(this.given.settings());
    try {
      await transport.sendMail(message);
    } catch (error) {
      throw new Refusal(502, inWords(error, where));
    } finally {
      transport.close();
    }
  }

  /** Whether a mail server answers and lets Carafe in. Nothing is sent. */
  async tryOut(settings: MailSettings): Promise<{ ok: boolean; message: string }> {
    try {
      const { transport, where } = this.transport(settings);
      try {
        await transport.verify();
        return { ok: true, message: `${where} answers and lets Carafe in.` };
      } catch (error) {
        return { ok: false, message: inWords(error, where) };
      } finally {
        transport.close();
      }
    } catch (error) {
      if (error instanceof Refusal) return { ok: false, message: error.message };
      throw error;
    }
  }
}
