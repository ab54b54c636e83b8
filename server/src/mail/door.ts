import { createPrivateKey } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { MailSettings } from '@carafe/contract';
import { createTransport, type SendMailOptions } from 'nodemailer';
import { Refusal } from '../http/errors';
import { inWords } from './failures';
import { isThisMachine, mailboxWay, serverWay, transportFor, type Way } from './transport';

interface Given {
  settings: () => MailSettings;
  /** Of the mail server; from the environment or a file, never shown. */
  password: () => string | null;
  /** The host that the password is for; null where nobody said it. */
  passwordHost: string | null;
  /** The port of the stand-in mail server; null while it does not stand. */
  mailboxPort: () => number | null;
  /** The file of the key that mails are signed with, if there is one. */
  dkimKeyFile?: string | undefined;
}

const isSameHost = (one: string | null, other: string): boolean =>
  one !== null && one.trim().toLowerCase() === other.trim().toLowerCase();

/** Mails that are to be signed do not leave unsigned. */
function refuseNoKey(file: string): void {
  try {
    createPrivateKey(readFileSync(file));
  } catch {
    throw new Refusal(
      409,
      `Emails must be signed, but ${file} contains no readable private key (PEM). Set CARAFE_DKIM_KEY_FILE to a file that does, and start Carafe again.`,
    );
  }
}

/** The one way by which mails leave. */
export class Door {
  constructor(private readonly given: Given) {}

  /** How emails leave by these settings; refuses with a sentence where they cannot. */
  way({ server, dkim }: Pick<MailSettings, 'server' | 'dkim'>, testOnly = false): Way {
    const { mailboxPort, password: passwordOf, passwordHost, dkimKeyFile } = this.given;
    if (testOnly || server.kind === 'mailbox') {
      const port = mailboxPort();
      if (port === null)
        throw new Refusal(
          503,
          'The stand-in mail server is still starting. Try again in a moment.',
        );
      return mailboxWay(port);
    }
    const password = passwordOf();
    if (server.user !== '' && password === null)
      throw new Refusal(
        409,
        'The mail server asks for a password. Set CARAFE_SMTP_PASSWORD, or name its file in CARAFE_SMTP_PASSWORD_FILE, and start Carafe again.',
      );
    // Whoever may change the settings does not get the password by naming a host of their own.
    if (server.user !== '' && !isThisMachine(server.host) && !isSameHost(passwordHost, server.host))
      throw new Refusal(
        409,
        passwordHost === null
          ? `The password is only sent to the host it belongs to, and no host is set. Set CARAFE_SMTP_PASSWORD_HOST to ${server.host}, and start Carafe again.`
          : `The password is for ${passwordHost} and is not sent to ${server.host}. Set CARAFE_SMTP_PASSWORD_HOST and the password of that host, and start Carafe again.`,
      );
    if (dkim && !dkimKeyFile)
      throw new Refusal(
        409,
        'Emails must be signed, but there is no key. Set CARAFE_DKIM_KEY_FILE to its file, and start Carafe again.',
      );
    const key = dkim && dkimKeyFile ? { ...dkim, keyFile: dkimKeyFile } : null;
    if (key) refuseNoKey(key.keyFile);
    return serverWay(server, password, key);
  }

  private transport(settings: MailSettings, testOnly = false) {
    const way = this.way(settings, testOnly);
    return { transport: createTransport(transportFor(way)), where: way.where };
  }

  /** Hands a message to the mail server; throws a Refusal that says what went wrong. */
  async send(message: SendMailOptions): Promise<void> {
    const settings = this.given.settings();
    const { transport, where } = this.transport(settings, settings.test_only);
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
        return { ok: true, message: `${where} answers and accepts the login.` };
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
