import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import type { Store } from '../database/store';
import type { MailboxRepository } from './mailboxRepository';

/** A mail that is larger is refused, in bytes. */
const MAX_MAIL = 20_000_000;

interface Given {
  store: Pick<Store, 'write'>;
  mailbox: Pick<MailboxRepository, 'insert'>;
  now: () => Date;
  newId: () => string;
}

/**
 * A mail server of Carafe's own, on this machine alone: it takes every mail, delivers none, and keeps them to the
 * byte for the mailbox page.
 */
export class StandInMailServer {
  private readonly server: SMTPServer;
  private bound: number | null = null;

  constructor({ store, mailbox, now, newId }: Given) {
    this.server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      size: MAX_MAIL,
      logger: false,
      onData(stream, session, done) {
        const parts: Buffer[] = [];
        stream.on('data', (part: Buffer) => void parts.push(part));
        stream.on('end', () => {
          if (stream.sizeExceeded) {
            done(Object.assign(new Error('The email is too large.'), { responseCode: 552 }));
            return;
          }
          const { mailFrom, rcptTo } = session.envelope;
          const taken = {
            ...{ id: newId(), received_at: now().toISOString(), source: Buffer.concat(parts) },
            from: mailFrom ? mailFrom.address : '',
            to: rcptTo.map(({ address }) => address),
          };
          store
            .write(() => mailbox.insert(taken))
            .then(() => done(null, taken.id))
            .catch((error: Error) => done(error));
        });
      },
    });
    // A client that breaks off is no fault of this server.
    this.server.on('error', () => undefined);
  }

  /** The port that it listens on; null while it does not. */
  get port(): number | null {
    return this.bound;
  }

  /** Listens on a port of this machine; 0 for any that is free. */
  start(port: number): Promise<void> {
    return new Promise((done, failed) => {
      const raw = this.server.listen(port, '127.0.0.1', () => {
        this.bound = (raw.address() as AddressInfo).port;
        done();
      });
      raw.once('error', failed);
    });
  }

  stop(): Promise<void> {
    this.bound = null;
    return new Promise((done) => this.server.close(() => done()));
  }
}
