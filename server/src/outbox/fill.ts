import { sayCut } from '@carafe/core/check';
import type { Fields } from '@carafe/core/formula';
import { assembleRecord, type PersonData } from '@carafe/core/record';
import type { SendAnswer } from '@carafe/core/sending';
import { isDatabaseError } from '../database/databaseError';
import type { Store } from '../database/store';
import type { Job } from '../jobs/jobs';
import { carriedAddress } from '../mail/address';
import type { PeopleRepository } from '../people/repository';
import { MOST_ATTEMPTS, pauseAfter, reasonOf } from '../queue/queue';
import {
  Judge,
  timeOf,
  type JudgedRow,
  type JudgeParts,
  type JudgeTask,
  type Recipient,
} from './judge';
import { keepBack } from './keepBack';
import { packsOf } from './kept';
import { messageFor, type FilledMail, type MessageTask } from './message';
import {
  Hold,
  publishedTemplate,
  Stop,
  type PublishedParts,
  type PublishedTemplate,
} from './published';
import { REFUSED_BEFORE, type OutboxRepository } from './repository';
import { type OutboxRow } from './row';

export interface FillMailsTask extends MessageTask, JudgeTask {
  ids: string[];
}
export interface OutboxJobs {
  /** Gives how many are ready to be sent. */
  fillMails: Job<FillMailsTask, number>;
  /** A mail as it would be filled now; or why it would not go. */
  peekMail: Job<FillMailsTask, PeekedMail | null>;
}
export interface PeekedMail {
  subject: string;
  html: string;
  text: string;
  trail: unknown;
  /** Why it would be stopped. */
  stopped: string | null;
}

export type FillMailsParts = PublishedParts &
  JudgeParts & {
    people: Pick<PeopleRepository, 'ofEmails' | 'signer'>;
    outbox: Pick<
      OutboxRepository,
      | 'find'
      | 'findKey'
      | 'tryLater'
      | 'some'
      | 'fill'
      | 'move'
      | 'hold'
      | 'postpone'
      | 'refusedAddress'
      | 'shownTo'
    >;
  };

/** An email does not go now, by the rule of sending. */
class NotNow extends Error {
  constructor(
    readonly answer: Exclude<SendAnswer, { kind: 'send' }>,
    message: string,
  ) {
    super(message);
  }
}

/** So many mails are read from the database, packed, and written to it, at a time. */
const SLICE = 50;

const withThose = (data: PersonData, picks: PersonData['picks']): PersonData =>
  picks ? { ...data, picks } : data;

/** Fills mails of the outbox: with what is true now, from what is published now. */
class Filler {
  private readonly templates = new Map<string, Promise<PublishedTemplate>>();
  private readonly judge: Judge;

  constructor(
    private readonly parts: FillMailsParts,
    private readonly task: FillMailsTask,
  ) {
    this.judge = new Judge(parts, task);
  }

  private ready(id: string): Promise<PublishedTemplate> {
    const known = this.templates.get(id);
    if (known) return known;
    const made = publishedTemplate(this.parts, id, new Date(this.task.now));
    this.templates.set(id, made);
    return made;
  }

  private addressOf(row: OutboxRow, data: PersonData, fromEmail: string): string {
    if (fromEmail === '') throw new Stop('Its template has no valid sender address.');
    const meant =
      row.recipient === 'owner'
        ? fromEmail
        : String((data.person as Fields & { email?: unknown }).email ?? row.email);
    const to = carriedAddress(meant);
    if (to === null) throw new Stop(`“${meant.slice(0, 80)}” is not a valid email address.`);
    return to;
  }

  /** Those whom mails go to, by shop and address. */
  whom(rows: readonly OutboxRow[]): (row: OutboxRow) => Recipient | undefined {
    const shops = new Map<string, ReturnType<FillMailsParts['people']['ofEmails']>>();
    for (const shop of new Set(rows.map((row) => row.shop))) {
      const emails = rows.flatMap((row) => (row.shop === shop ? row.email : []));
      shops.set(shop, this.parts.people.ofEmails(shop, emails));
    }
    return ({ shop, email }) => shops.get(shop)?.get(email);
  }

  private refuse(row: OutboxRow, judged: JudgedRow | null, asked: Parameters<Judge['ask']>[2]) {
    const answer = this.judge.ask(row, judged, asked);
    if (answer.kind === 'send') return;
    const isRefused = answer.kind === 'stop' && answer.why === 'refused' && asked.to !== null;
    const why = isRefused ? this.parts.outbox.refusedAddress(asked.to?.toLowerCase() ?? '') : null;
    throw new NotNow(
      answer,
      why === null ? this.judge.say(answer, row, judged) : `${REFUSED_BEFORE}: ${why}`,
    );
  }

  /** Fills one mail for whom it goes to; throws a Stop, a Hold or a NotNow that says why it does not go. */
  async fill(row: OutboxRow, found: Recipient | undefined): Promise<FilledMail> {
    const judged = found ? this.judge.read(row, found) : null;
    // Nothing is read from a template for somebody who gets nothing.
    if (!judged) this.refuse(row, judged, { to: null, subject: null });
    if (!judged) throw new Stop('This person no longer exists.');
    const ready = await this.ready(row.template);
    if (!ready.shared) throw new Stop('Its shop no longer exists.');
    const { data, about, beside, picks } = judged;
    const to = this.addressOf(row, data, ready.fromEmail);
    this.refuse(row, judged, { to, subject: null });
    const filledFor = ready.picks ? withThose(data, picks()) : data;
    const { products, reads } = ready;
    const product = about.sku === undefined ? undefined : products.get(about.sku);
    const record = {
      ...assembleRecord(filledFor, ready.shared, products, { reads }),
      ...beside,
      ...(product && { product }),
      links: this.linksOf(row, data),
    };
    const asOf = new Date(timeOf(row, this.task));
    const rendered = ready.render(record, { asOf });
    if (rendered.held)
      throw new Stop('The template’s “Send only if” condition is not met for this person.');
    if (rendered.cut) throw new Stop(sayCut(ready.template, rendered.cut));
    const consent = (data.person as { consent?: unknown }).consent === true;
    return { rendered, to, ready, tracked: consent && row.recipient === 'person' };
  }

  /** Links to Carafe’s own pages, signed and without an address. */
  private linksOf(row: OutboxRow, data: PersonData): Fields {
    const { base } = this.task;
    const token = encodeURIComponent(data.token ?? '');
    const own = encodeURIComponent(this.parts.people.signer.make('view', row.id));
    return {
      unsubscribe: `${base}/mail/unsubscribe/${token}`,
      preferences: `${base}/mail/preferences/${token}`,
      view_in_browser: `${base}/mail/view/${own}`,
    } as Fields;
  }
}

const isAnswer = (error: unknown): error is Stop | Hold | NotNow =>
  error instanceof Stop || error instanceof Hold || error instanceof NotNow;

/** What becomes of an email that was not filled. One that cannot be filled is set aside alone, and tried again later. */
function endingOf(
  outbox: FillMailsParts['outbox'],
  { id, attempts }: OutboxRow,
  error: unknown,
  now: number,
): () => boolean {
  if (!isAnswer(error)) {
    if (isDatabaseError(error)) throw error;
    const reason = `This email could not be filled. ${reasonOf(error)}`;
    return attempts + 1 >= MOST_ATTEMPTS
      ? () => outbox.hold(id, 'waiting', 'failed', `${reason} Approve it to try again, or stop it.`)
      : () =>
          outbox.tryLater(id, now + pauseAfter(attempts + 1), `${reason} Carafe will try again.`);
  }
  const { message } = error;
  if (error instanceof Hold) return () => outbox.hold(id, 'waiting', 'template', message);
  if (error instanceof Stop) return () => outbox.move(id, 'waiting', 'stopped', message);
  return () => keepBack(outbox, id, 'waiting', error.answer, message);
}

/** Fills what waits; a mail that may not go is stopped with its reason. Gives how many are ready. */
export async function fillMails(
  store: Store,
  parts: FillMailsParts,
  task: FillMailsTask,
): Promise<number> {
  const filler = new Filler(parts, task);
  let ready = 0;
  for (let from = 0; from < task.ids.length; from += SLICE) {
    const rows = parts.outbox.some(task.ids.slice(from, from + SLICE));
    const whom = filler.whom(rows);
    const filled: ReturnType<typeof messageFor>[] = [];
    const ended: (() => boolean)[] = [];
    for (const row of rows) {
      if (row.state !== 'waiting') continue;
      try {
        filled.push(messageFor(parts.people.signer, task, row, await filler.fill(row, whom(row))));
      } catch (error) {
        ended.push(endingOf(parts.outbox, row, error, task.now));
      }
    }
    if (filled.length + ended.length === 0) continue;
    const packs = packsOf(filled);
    await store.write(() => {
      for (const end of ended) end();
      for (const pack of packs) ready += parts.outbox.fill(pack, task.now);
    });
  }
  return ready;
}

/** How a mail that is not filled yet would be, were it to go now. */
export async function peekMail(
  parts: FillMailsParts,
  task: FillMailsTask,
): Promise<PeekedMail | null> {
  const row = parts.outbox.find(task.ids[0] ?? '');
  if (!row) return null;
  const filler = new Filler(parts, task);
  try {
    const { rendered } = await filler.fill(row, filler.whom([row])(row));
    const { subject, html, text } = rendered.mail;
    return { subject, html, text, trail: rendered.trail ?? [], stopped: null };
  } catch (error) {
    if (!isAnswer(error)) throw error;
    return { subject: '', html: '', text: '', trail: [], stopped: error.message };
  }
}
