import type { OutboxState } from '@carafe/contract';
import type { MailEffect } from '@carafe/core/occasion';
import type { HoldReason } from '@carafe/core/sending';
import type { ReceivedEmail } from '@carafe/core/record';
import type { Db } from '../database/open';
import type { MailToKeep, Pack } from './kept';
import { keptMails } from './keptMails';
import { outboxLists } from './lists';
import { mailsOfOccasion } from './ofOccasion';
import { reactions } from './reactions';
import { refusedAddresses } from './refusedAddresses';
import type { OutboxRow } from './row';

/** A mail as it was filled. */
export interface Filled {
  id: string;
  subject: string;
  to: string;
  messageId: string;
  kept: MailToKeep;
  links: string[];
  shown: string[];
  tracked: boolean;
  published: number;
}

export const STOPPED_BY_HAND = 'Stopped by hand.';
export const STOPPED_HELD = 'Stopped by hand before it was approved.';
/** How the reasons begin of what the mail server brought to an end. */
export const GIVEN_UP = 'Given up after';
export const REFUSED_BEFORE = 'The address was refused before';

/** Whether the mail server brought a mail to an end, so that it can be tried again. */
export const endedByServer = ({ state, reason }: Pick<OutboxRow, 'state' | 'reason'>): boolean =>
  state === 'bounced' ||
  (state === 'stopped' && [GIVEN_UP, REFUSED_BEFORE].some((one) => reason?.startsWith(one)));

type Received = Omit<ReceivedEmail, 'marketing'> & { marketing: number };

/** More emails that are due are not counted: this is asked often. */
const MOST_COUNTED = 10_000;

/** A cause such as a time is the same for many people: their address tells their mails apart. */
const keyOf = (shop: string, email: string, key: string): string => `${shop} ${email} ${key}`;

/** The outbox, outbox_sources and outbox_packs tables. */
export function outboxRepository(db: Db) {
  const { keep, ...kept } = keptMails(db);
  const refused = refusedAddresses(db);
  const insert = db.prepare(
    `INSERT INTO outbox (id, key, shop, email, recipient, mail, occasion, version, cause, step, about, beside,
       template, state, hold, made_at, next_at, priority)
     VALUES (@id, @key, @shop, @email, @recipient, @mail, @occasion, @version, @cause, @step, @about, @beside,
       @template, @state, @hold, @made_at, @next_at, @priority)
     ON CONFLICT (key) DO NOTHING`,
  );
  const one = db.prepare<[string], OutboxRow>('SELECT * FROM outbox WHERE id = ?');
  const some = db.prepare<[string], OutboxRow>(
    'SELECT outbox.* FROM json_each(?) AS wanted CROSS JOIN outbox ON outbox.id = wanted.value ORDER BY wanted.key',
  );
  const byKey = db.prepare<[string], OutboxRow>('SELECT * FROM outbox WHERE key = ?');
  const toDo = db
    .prepare<[OutboxState, number, number], string>(
      `SELECT id FROM outbox WHERE state = ? AND next_at <= ?
         AND (occasion NOT IN (SELECT occasion FROM crowds WHERE state <> 'idle') OR instr(approved, 'crowd') > 0)
       ORDER BY next_at, rowid LIMIT ?`,
    )
    .pluck();
  const shopsOf = db
    .prepare<[string], string>(
      'SELECT DISTINCT shop FROM json_each(?) AS wanted CROSS JOIN outbox ON outbox.id = wanted.value',
    )
    .pluck();
  const nextAt = db
    .prepare<[], number | null>(
      `SELECT MIN(next_at) FROM outbox WHERE state IN ('waiting', 'ready')`,
    )
    .pluck();
  const dueOf = (state: 'waiting' | 'ready') =>
    `SELECT * FROM (SELECT next_at FROM outbox INDEXED BY outbox_to_do
       WHERE state = '${state}' AND next_at <= @now
         AND occasion NOT IN (SELECT occasion FROM crowds WHERE state <> 'idle')
       ORDER BY next_at LIMIT ${MOST_COUNTED})`;
  const dueFigures = db.prepare<{ now: number }, { due: number; oldest: number | null }>(
    `SELECT COUNT(*) AS due, MIN(next_at) AS oldest FROM (${dueOf('waiting')} UNION ALL ${dueOf('ready')})`,
  );
  const ofState = db
    .prepare<[OutboxState], string>('SELECT id FROM outbox WHERE state = ?')
    .pluck();
  const move = db.prepare(
    'UPDATE outbox SET state = @to, reason = @reason, hold = NULL WHERE id = @id AND state = @from',
  );
  const hold = db.prepare(
    `UPDATE outbox SET state = 'held', hold = @why, reason = @reason WHERE id = @id AND state = @from`,
  );
  const tryLater = db.prepare(
    `UPDATE outbox SET attempts = attempts + 1, next_at = @at, reason = @reason WHERE id = @id AND state = 'waiting'`,
  );
  const postpone = db.prepare(
    `UPDATE outbox SET state = 'waiting', next_at = @until, reason = @reason WHERE id = @id AND state = @from`,
  );
  const fill = db.prepare(
    `UPDATE outbox SET state = 'ready', subject = @subject, to_address = @to, message_id = @messageId,
       tracked = @tracked, published = @published, filled_at = @filledAt, reason = NULL
     WHERE id = @id AND state = 'waiting'`,
  );
  const stale = db
    .prepare<[string, number], string>(
      `SELECT outbox.id FROM json_each(?) AS wanted CROSS JOIN outbox ON outbox.id = wanted.value
       WHERE coalesce(filled_at, 0) < ?`,
    )
    .pluck();
  const empty = db.prepare(`UPDATE outbox SET state = 'waiting' WHERE id = ? AND state = 'ready'`);
  const claim = db.prepare(
    `UPDATE outbox SET state = 'sending', attempts = attempts + 1, went_at = ? WHERE id = ? AND state = 'ready'`,
  );
  const sent = db.prepare(
    `UPDATE outbox SET state = 'sent', sent_at = ?, test_only = ?, reason = NULL WHERE id = ?`,
  );
  const again = db.prepare(
    `UPDATE outbox SET state = 'ready', next_at = ?, reason = ?, went_at = NULL WHERE id = ? AND state = 'sending'`,
  );
  const putBack = db.prepare(
    `UPDATE outbox SET state = 'ready', attempts = attempts - 1, went_at = NULL WHERE id = ? AND state = 'sending'`,
  );
  const holdReady = db.prepare(
    `UPDATE outbox SET state = 'held', hold = 'template', reason = ? WHERE state = 'ready' AND template = ?`,
  );
  const later = db.prepare('UPDATE outbox SET next_at = ? WHERE id = ?');
  const elsewhere = db
    .prepare<[string, string, string, string, string], number>(
      `SELECT 1 FROM outbox INDEXED BY outbox_of_cause
       WHERE about <> '{}' AND occasion = ? AND cause = ? AND step = ? AND shop = ? AND email <> ?
         AND (about ->> '$.order' IS NOT NULL OR about ->> '$.cart' IS NOT NULL)
         AND state NOT IN ('stopped', 'bounced') LIMIT 1`,
    )
    .pluck();
  const approve = db.prepare(
    `UPDATE outbox SET state = 'waiting', next_at = @at, reason = NULL, hold = NULL,
       approved = trim(approved || ' ' || coalesce(hold, ''))
     WHERE id = @id AND state = 'held'`,
  );
  const goOn = db.prepare(
    `UPDATE outbox SET state = CASE reason WHEN '${STOPPED_HELD}' THEN 'held' ELSE 'waiting' END,
       hold = CASE reason WHEN '${STOPPED_HELD}' THEN 'step' END, reason = NULL, next_at = @at
     WHERE id = @id AND state = 'stopped' AND reason IN ('${STOPPED_BY_HAND}', '${STOPPED_HELD}')`,
  );
  const tryAgain = db.prepare(
    `UPDATE outbox SET state = 'waiting', attempts = 0, reason = NULL, went_at = NULL, next_at = ? WHERE id = ?`,
  );
  const repeat = db.prepare(
    `INSERT INTO outbox (id, key, shop, email, recipient, mail, occasion, version, cause, step, about, beside,
       template, state, made_at, next_at, priority, approved)
     SELECT @newId, key || ' again ' || @newId, shop, email, recipient, mail, occasion, version, cause, step, about,
       beside, template, 'waiting', @made, @at, priority, 'twice_a_minute same_subject'
     FROM outbox WHERE id = @id AND state = 'sent'`,
  );
  const receivedBy = db.prepare<[string, string, number], Received>(
    `SELECT coalesce(occasions.document ->> '$.name', '') AS occasion, coalesce(subject, '') AS subject,
       mail = 'marketing' AS marketing, sent_at, opened_at, clicked_at
     FROM outbox INDEXED BY outbox_of_person LEFT JOIN occasions ON occasions.id = outbox.occasion
     WHERE outbox.shop = ? AND email = ? AND recipient = 'person' AND state = 'sent' AND sent_at IS NOT NULL
     ORDER BY made_at DESC LIMIT ?`,
  );
  const allowOff = db.prepare(
    `UPDATE outbox SET approved = trim(approved || ' switched_off') WHERE id = ? AND instr(approved, 'switched_off') = 0`,
  );
  return {
    ...kept,
    ...outboxLists(db),
    ...mailsOfOccasion(db),
    ...reactions(db, kept.links),
    refuseAddress: refused.refuseAddress,
    refusedAddress: refused.refusedAddress,
    /** Takes a mail that the engine made; false where there is one for its cause and step already. */
    insert(
      id: string,
      shop: string,
      email: string,
      { key, occasion, version, cause, about, step, at }: MailEffect,
      beside: object,
      { priority = 0, inCrowd = false } = {},
    ): boolean {
      const { to: recipient, mail, template, mode } = step;
      return (
        insert.run({
          ...{
            id,
            key: keyOf(shop, email, key),
            shop,
            email,
            recipient,
            mail,
            occasion,
            version,
            cause,
            template,
          },
          ...{ step: step.id, about: JSON.stringify(about), beside: JSON.stringify(beside) },
          ...{ state: mode === 'on' && !inCrowd ? 'waiting' : 'held', next_at: at, priority },
          hold: mode !== 'on' ? 'step' : inCrowd ? 'crowd' : null,
          made_at: new Date(at).toISOString(),
        }).changes === 1
      );
    },
    find: (id: string): OutboxRow | null => one.get(id) ?? null,
    /** Those that are there, in the order of the ids. */
    some: (ids: readonly string[]): OutboxRow[] => some.all(JSON.stringify(ids)),
    /** The mail that the engine made of a person for a cause and a step. */
    findKey: (shop: string, email: string, key: string): OutboxRow | null =>
      byKey.get(keyOf(shop, email, key)) ?? null,
    toDo: (state: OutboxState, until: number, most: number): string[] =>
      toDo.all(state, until, most),
    shopsOf: (ids: readonly string[]): string[] => shopsOf.all(JSON.stringify(ids)),
    /** How many emails are due, some 10,000 at most, and since when the oldest is, in milliseconds. */
    dueFigures: (now: number) => dueFigures.get({ now }) ?? { due: 0, oldest: null },
    nextAt: (): number | null => nextAt.get() ?? null,
    ofState: (state: OutboxState): string[] => ofState.all(state),
    /** Moves a mail from one state to another; false where it is not in the first. */
    move: (id: string, from: OutboxState, to: OutboxState, reason: string | null = null): boolean =>
      move.run({ id, from, to, reason }).changes === 1,
    /** Whether an email about one order or cart was created for another address, as that of a guest who gave two. */
    sentElsewhere: (
      shop: string,
      email: string,
      { occasion, cause, step }: { occasion: string; cause: string; step: string },
    ): boolean => elsewhere.get(occasion, cause, step, shop, email) === 1,
    /** Holds a mail until somebody approves it. */
    hold: (id: string, from: OutboxState, why: HoldReason, reason: string): boolean =>
      hold.run({ id, from, why, reason }).changes === 1,
    /** A mail that could not be filled is tried again at an instant (milliseconds). */
    tryLater: (id: string, at: number, reason: string): boolean =>
      tryLater.run({ id, at, reason }).changes === 1,
    /** Lets a mail wait until an instant (milliseconds), when it is asked for anew. */
    postpone: (id: string, from: OutboxState, until: number, reason: string): boolean =>
      postpone.run({ id, from, until, reason }).changes === 1,
    /** Takes up again what was stopped by hand; it is filled anew, and what was held is held. */
    goOn: (id: string, at: number): boolean => goOn.run({ id, at }).changes === 1,
    failedAddresses: refused.failedAddresses,
    forgiveAddress: refused.forgive,
    /** Begins anew with what the mail server brought to an end, and writes to its address again; false for anything else. */
    tryAgain(id: string, at: number): boolean {
      const row = one.get(id);
      if (!row || !endedByServer(row)) return false;
      refused.forgive((row.to_address ?? row.email).toLowerCase());
      return tryAgain.run(at, id).changes === 1;
    },
    /** Approves a mail that is held. */
    approve: (id: string, at: number): boolean => approve.run({ id, at }).changes === 1,
    /**
     * Makes a new email of the same person, step and cause as one that was sent; it is filled anew, at an instant
     * (milliseconds). That it repeats another is meant, so it is not held for that. False where it was not sent.
     */
    repeat: (id: string, newId: string, at: number): boolean =>
      repeat.run({ id, newId, at, made: new Date(at).toISOString() }).changes === 1,
    /** The emails that were sent to a person, the latest `most`, the first one first. */
    receivedBy: (shop: string, email: string, most: number): ReceivedEmail[] =>
      receivedBy
        .all(shop, email, most)
        .map((row) => ({ ...row, marketing: row.marketing === 1 }))
        .reverse(),
    /** Lets a mail go though its occasion is switched off. */
    allowOff: (id: string): void => void allowOff.run(id),
    /**
     * Keeps mails as they were filled at an instant (milliseconds), but for those that wait for that no more. Gives how
     * many are kept.
     */
    fill({ bytes, mails }: Pack<Filled>, filledAt: number): number {
      const waiting = mails.flatMap((mail, place) => {
        const { id, subject, to, messageId, published } = mail;
        const given = { id, subject, to, messageId, published, filledAt };
        const { changes } = fill.run({ ...given, tracked: mail.tracked ? 1 : 0 });
        return changes === 0 ? [] : { mail, place };
      });
      if (waiting.length === 0) return 0;
      keep(bytes, waiting);
      return waiting.length;
    },
    /** Which of some mails were filled before an instant (milliseconds). */
    filledBefore: (ids: readonly string[], instant: number): string[] =>
      stale.all(JSON.stringify(ids), instant),
    /** Lets a mail that is filled and not handed over yet be filled anew. */
    fillAnew: (id: string): void => void empty.run(id),
    /** Claims a mail that is about to be handed over, at an instant in milliseconds. */
    claim: (id: string, at: number): boolean => claim.run(at, id).changes === 1,
    sent: (id: string, at: string, testOnly: boolean): void =>
      void sent.run(at, testOnly ? 1 : 0, id),
    again: (id: string, at: number, reason: string): void => void again.run(at, reason, id),
    /** Of which the mail server heard nothing: it is as if it had not been claimed. */
    putBack: (id: string): void => void putBack.run(id),
    /** Holds what is filled of a template and not handed over yet. Gives how many. */
    holdReady: (template: string, reason: string): number =>
      holdReady.run(reason, template).changes,
    later: (id: string, at: number): void => void later.run(at, id),
  };
}
export type OutboxRepository = ReturnType<typeof outboxRepository>;
