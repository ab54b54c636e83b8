import { createTransport, type Transporter } from 'nodemailer';
import { isDatabaseError } from '../database/databaseError';
import type { Store } from '../database/store';
import type { Job } from '../jobs/jobs';
import type { CrowdsRepository } from '../occasions/crowdsRepository';
import type { PeopleRepository } from '../people/repository';
import { reasonOf } from '../queue/queue';
import { transportFor, type Way } from '../mail/transport';
import { inWords, isAnswered, isDoorShut, isDropped, whatIsRefused } from '../mail/failures';
import { handing, watchHandover } from './handover';
import { keepBack } from './keepBack';
import { retryAfter } from './pauses';
import { GIVEN_UP, type OutboxRepository } from './repository';
import { approvedFor } from './row';
import { Judge, timeOf, type JudgeParts, type JudgeTask } from './judge';

/** `now` is the moved clock, as of the beginning. */
export interface DeliverTask extends JudgeTask {
  ids: string[];
  way: Way;
  /** Everything goes to the stand-in mailbox. */
  testOnly: boolean;
}
export interface Delivered {
  sent: number;
  /** What the mail server said when it shut the door; null where it is open. */
  shut: string | null;
  /** Those that it had in its hands when it fell silent. */
  doubts: string[];
}
export interface DeliverJobs {
  deliver: Job<DeliverTask, Delivered>;
}
type Parts = JudgeParts & {
  outbox: OutboxRepository;
  people: Pick<PeopleRepository, 'ofEmails'>;
  crowds: Pick<CrowdsRepository, 'isHeld'>;
};

/** Connections that are kept open side by side. */
const CONNECTIONS = 5;
/** After so many tries a mail is given up. */
export const MOST_TRIES = 8;
/** When so many connections break one after the other, the server is not to be spoken to now. */
const MOST_DROPS = 3;
const MINUTE = 60_000;
/** So long a mail server may take to look through a mail before it says that it has it, in milliseconds. */
const PATIENCE = 2 * MINUTE;

const FELL_SILENT = 'received this email but did not confirm it. It may or may not have been sent.';

/**
 * Hands mails to the mail server, each claimed in a transaction of its own right before. What the server had whole and
 * did not answer is in doubt, and what was claimed and not marked when the process ends; nothing else is. Where the server
 * cannot be spoken to at all, that is no try of a mail.
 */
export async function deliver(store: Store, parts: Parts, task: DeliverTask): Promise<Delivered> {
  const { outbox } = parts;
  const began = Date.now();
  const now = () => task.now + (Date.now() - began);
  const transport: Transporter = createTransport({
    ...transportFor(task.way),
    ...{ pool: true, maxConnections: CONNECTIONS, maxMessages: 100, socketTimeout: PATIENCE },
  } as never);
  watchHandover(transport);
  const left = [...task.ids];
  const answer: Delivered = { sent: 0, shut: null, doubts: [] };
  /** Connections that broke since the last email that was taken. */
  let drops = 0;

  const one = async (id: string): Promise<void> => {
    const goes = { ...task, now: now() };
    try {
      if (!(await store.write(() => claimed(parts, id, goes)))) return;
    } catch (error) {
      if (isDatabaseError(error)) throw error;
      // A damaged email is set aside alone.
      await store.write(() =>
        outbox.hold(id, 'ready', 'failed', `This email could not be sent. ${reasonOf(error)}`),
      );
      return;
    }
    const row = outbox.find(id);
    const kept = outbox.source(id);
    if (!row || !kept) {
      await store.write(() =>
        outbox.move(id, 'sending', 'stopped', 'Its contents are no longer kept.'),
      );
      return;
    }
    const to = row.to_address ?? row.email;
    const from = /^From: (?:.*<)?([^<>\r\n]+?)>?\r$/m.exec(unfolded(kept.source))?.[1] ?? '';
    const hands = handing();
    try {
      await transport.sendMail({
        // With its size, a server that takes less says so before it is sent (RFC 1870).
        envelope: { from, to: [to], size: kept.source.length } as never,
        ...{ raw: kept.source, ...hands.told },
      });
      const at = new Date(timeOf(row, { ...task, now: now() })).toISOString();
      await store.write(() => outbox.sent(id, at, task.testOnly));
      answer.sent++;
      drops = 0;
    } catch (error) {
      const said = inWords(error, task.way.where);
      const refused = whatIsRefused(error);
      if (refused !== null) {
        await store.write(() => {
          // Whom it is from can be put right: nothing is lost meanwhile.
          if (refused === 'sender') outbox.hold(id, 'sending', 'sender', said);
          else outbox.move(id, 'sending', 'bounced', said);
          if (refused === 'address')
            outbox.refuseAddress(to.toLowerCase(), new Date(now()).toISOString(), said);
        });
        return;
      }
      // One connection that broke says nothing of the others.
      const isShut = isDoorShut(error) && (!isDropped(error) || ++drops >= MOST_DROPS);
      if (isShut) answer.shut = said;
      if (hands.isWhole() && !isAnswered(error)) answer.doubts.push(id);
      await store.write(() => {
        if (answer.doubts.includes(id))
          outbox.move(id, 'sending', 'in_doubt', `${task.way.where} ${FELL_SILENT}`);
        else if (isDoorShut(error) && !hands.isBegun()) outbox.putBack(id);
        else if (row.attempts >= MOST_TRIES)
          outbox.move(id, 'sending', 'stopped', `${GIVEN_UP} ${row.attempts} tries. ${said}`);
        else outbox.again(id, now() + retryAfter(row.attempts), said);
      });
    }
  };
  const worker = async () => {
    for (let id = left.shift(); id !== undefined && answer.shut === null; id = left.shift())
      await one(id);
  };
  // Whatever is in the server’s hands is waited for, though what became of another cannot be written down.
  const ended = await Promise.allSettled(Array.from({ length: CONNECTIONS }, worker));
  transport.close();
  for (const one of ended) if (one.status === 'rejected') throw one.reason;
  return answer;
}

/**
 * Claims a mail, inside a transaction. Whether it may go is asked once more, by the same rule as when it was created: what
 * was true when it was filled may not be any more. Gives whether it is claimed.
 */
function claimed(parts: Parts, id: string, task: JudgeTask): boolean {
  const { outbox, people } = parts;
  const row = outbox.find(id);
  if (row?.state !== 'ready') return false;
  if (parts.crowds.isHeld(row.occasion) && !approvedFor(row).has('crowd')) return false;
  const judge = new Judge(parts, task);
  const found = people.ofEmails(row.shop, [row.email]).get(row.email);
  const judged = found ? judge.read(row, found) : null;
  const answer = judge.ask(row, judged, { to: row.to_address, subject: row.subject });
  if (answer.kind === 'send') return outbox.claim(id, timeOf(row, task));
  keepBack(outbox, id, 'ready', answer, judge.say(answer, row, judged));
  return false;
}

/** The head of a message with its folded lines joined. */
const unfolded = (source: Buffer): string =>
  source
    .subarray(0, 2_000)
    .toString('latin1')
    .replace(/\r\n[ \t]/g, ' ');
