import { createTransport } from 'nodemailer';
import type { Store } from '../server/src/database/store';
import { StandInMailServer } from '../server/src/mail/standInServer';
import { mailboxWay, transportFor } from '../server/src/mail/transport';
import { deliver } from '../server/src/outbox/deliver';
import type { Repositories } from '../server/src/repositories';

export interface Handover {
  mails: number;
  /** Milliseconds for all: by the outbox, and by a client that only hands the same bytes to the same server. */
  own: number;
  alone: number;
}

/**
 * Hands so many mails that are ready to the stand-in mail server, each claimed and marked; and the same bytes by a
 * bare client over as many connections, in turns. All in one thread, which is the server's share as well.
 */
export async function handover(
  store: Store,
  parts: Repositories,
  { now, mails }: { now: number; mails: number },
): Promise<Handover> {
  let id = 0;
  const standIn = new StandInMailServer({
    ...{ store, mailbox: parts.mailbox, now: () => new Date(now), newId: () => `in-${++id}` },
  });
  await standIn.start(0);
  const way = mailboxWay(standIn.port ?? 0);
  const all = parts.outbox.toDo('ready', now, mails);
  const bytes = all.map((one) => parts.outbox.source(one)?.source ?? Buffer.alloc(0));
  const bare = createTransport({
    ...transportFor(way),
    ...{ pool: true, maxConnections: 5, maxMessages: 100 },
  } as never);
  let [own, alone] = [0, 0];
  const turn = Math.ceil(all.length / 10);
  for (let from = 0; from < all.length; from += turn) {
    let began = performance.now();
    const ids = all.slice(from, from + turn);
    const { sent } = await deliver(store, parts, {
      moved: null,
      picks: {},
      ids,
      now,
      way,
      testOnly: true,
    });
    if (sent !== ids.length) throw new Error(`Of ${ids.length} mails ${sent} were sent.`);
    own += performance.now() - began;
    began = performance.now();
    const envelope = { from: 'post@s.example', to: ['maud@s.example'] };
    await Promise.all(
      bytes.slice(from, from + turn).map((raw) => bare.sendMail({ envelope, raw })),
    );
    alone += performance.now() - began;
  }
  bare.close();
  await standIn.stop();
  return { mails: all.length, own, alone };
}
