import type { OutboxState } from '@carafe/contract';
import type { About, MailEffect } from '@carafe/core/occasion';
import type { HoldReason } from '@carafe/core/sending';
import type { Db } from '../database/open';
import type { MailToKeep, Pack } from './kept';
import { keptMails } from './keptMails';

export interface OutboxRow {
  id: string;
  key: string;
  shop: string;
  email: string;
  recipient: 'person' | 'owner';
  mail: 'marketing' | 'service';
  occasion: string;
  version: number;
  cause: string;
  step: string;
  /** JSON. */
  about: string;
  beside: string;
  template: string;
  published: number | null;
  state: OutboxState;
  reason: string | null;
  subject: string | null;
  to_address: string | null;
  message_id: string | null;
  attempts: number;
  made_at: string;
  /** Milliseconds. */
  next_at: number;
  sent_at: string | null;
  test_only: number;
  tracked: number;
  opened_at: string | null;
  clicked_at: string | null;
  priority: number;
  /** When it was handed over, in milliseconds. */
  went_at: number | null;
  /** Why it waits for approval. */
  hold: HoldReason | null;
  /** For which reasons somebody approved it, with spaces between. */
  approved: string;
}

/** Where a row stands in the order of the list. */
export interface OutboxPlace {
  made_at: string;
  n: number;
}
export type PlacedRow = OutboxRow & OutboxPlace;

export interface OutboxWanted {
  shop: string;
  state?: OutboxState | undefined;
  occasion?: string | undefined;
  step?: string | undefined;
  email?: string | undefined;
  search?: string | undefined;
  /** How the reason begins. */
  reason?: string | undefined;
}

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

/** Whether the mail server brought a mail to an end, so that it can be tried once more. */
export const endedByServer = ({ state, reason }: Pick<OutboxRow, 'state' | 'reason'>): boolean =>
  state === 'bounced' ||
  (state === 'stopped' && [GIVEN_UP, REFUSED_BEFORE].some((one) => reason?.startsWith(one)));

const SECOND = 1_000;
/** More emails that are due are not counted: this is asked often. */
const MOST_COUNTED = 10_000;
/** Nobody follows so many links of one email within a second by hand. */
const MOST_BY_HAND = 5;
/** Later than any date of ISO 8601. */
const AFTER_ALL = '~';

/** A cause such as a time is the same for many people: their address tells their mails apart. */
const keyOf = (shop: string, email: string, key: string): string => `${shop} ${email} ${key}`;

/** The outbox, outbox_sources and outbox_packs tables. */
export function outboxRepository(db: Db) {
  const { keep, ...kept } = keptMails(db);
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
  const OPEN = `state IN ('waiting', 'held', 'ready')`;
  const stopOf = db.prepare(
    `UPDATE outbox SET state = 'stopped', hold = NULL, reason = ?
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND ${OPEN} LIMIT ?)`,
  );
  const keepOf = db.prepare(
    `UPDATE outbox SET approved = trim(approved || ' switched_off')
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND ${OPEN} AND instr(approved, 'switched_off') = 0 LIMIT ?)`,
  );
  const holdCrowd = db.prepare(
    `UPDATE outbox SET state = 'held', hold = 'crowd', reason = ?
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND state IN ('waiting', 'ready')
       AND instr(approved, 'crowd') = 0 LIMIT ?)`,
  );
  const approveCrowd = db.prepare(
    `UPDATE outbox SET state = 'waiting', next_at = ?, hold = NULL, reason = NULL, approved = trim(approved || ' crowd')
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND state = 'held' AND hold = 'crowd' LIMIT ?)`,
  );
  const elsewhere = db
    .prepare<[string, string, string, string, string], number>(
      `SELECT 1 FROM outbox INDEXED BY outbox_of_cause
       WHERE about <> '{}' AND occasion = ? AND cause = ? AND step = ? AND shop = ? AND email <> ?
         AND (about ->> '$.order' IS NOT NULL OR about ->> '$.cart' IS NOT NULL)
         AND state NOT IN ('stopped', 'bounced') LIMIT 1`,
    )
    .pluck();
  const heldBy = db
    .prepare<[string, HoldReason], number>(
      `SELECT COUNT(*) FROM outbox WHERE occasion = ? AND state = 'held' AND hold = ?`,
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
  const allowOff = db.prepare(
    `UPDATE outbox SET approved = trim(approved || ' switched_off') WHERE id = ? AND instr(approved, 'switched_off') = 0`,
  );
  const setOpened = db.prepare(
    'UPDATE outbox SET opened_at = ? WHERE id = ? AND opened_at IS NULL AND tracked = 1',
  );
  const setClicked = db.prepare(
    'UPDATE outbox SET clicked_at = ? WHERE id = ? AND clicked_at IS NULL AND tracked = 1',
  );
  const forgetHits = db.prepare('DELETE FROM link_hits WHERE at < ?');
  const addHit = db.prepare('INSERT INTO link_hits (mail, number, at) VALUES (?, ?, ?)');
  const hits = db
    .prepare<[string, number], number>(
      'SELECT COUNT(DISTINCT number) FROM link_hits WHERE mail = ? AND at > ?',
    )
    .pluck();
  const takeBackClick = db.prepare(
    'UPDATE outbox SET clicked_at = NULL WHERE id = ? AND opened_at IS NULL AND clicked_at >= ?',
  );
  const refuse = db.prepare(
    `INSERT INTO refused_addresses (email, at, reason) VALUES (?, ?, ?)
     ON CONFLICT (email) DO UPDATE SET at = excluded.at, reason = excluded.reason`,
  );
  const refused = db
    .prepare<[string], string>('SELECT reason FROM refused_addresses WHERE email = ?')
    .pluck();
  const forgive = db.prepare('DELETE FROM refused_addresses WHERE email = ?');

  const whereOf = ({ state, occasion, step, email, search, reason }: OutboxWanted) =>
    [
      'shop = @shop',
      state && 'state = @state',
      occasion && 'occasion = @occasion',
      step && 'step = @step',
      email && 'email = @email',
      reason && 'substr(reason, 1, length(@reason)) = @reason',
      search && `(email LIKE @like ESCAPE '\\' OR subject LIKE @like ESCAPE '\\')`,
    ]
      .filter(Boolean)
      .join(' AND ');
  /** The index that gives the rows in the order of the list: nothing is sorted, however many they are. */
  const inOrder = ({ state, email }: OutboxWanted) =>
    `outbox INDEXED BY ${email ? 'outbox_of_person' : state ? 'outbox_of_state' : 'outbox_in_time'}`;
  const given = (wanted: OutboxWanted) => ({
    ...wanted,
    like: `%${(wanted.search ?? '').replace(/[\\%_]/g, '\\$&')}%`,
  });
  return {
    ...kept,
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
    /** How many emails of an occasion are held for a reason. */
    heldBy: (occasion: string, why: HoldReason): number => heldBy.get(occasion, why) ?? 0,
    /** Stops what waits of an occasion, so many at most. Gives how many. */
    stopOf: (occasion: string, reason: string, most: number): number =>
      stopOf.run(reason, occasion, most).changes,
    /** Lets what waits of an occasion go though it is switched off. */
    keepOf: (occasion: string, most: number): number => keepOf.run(occasion, most).changes,
    /** Holds what an occasion has not sent yet until somebody has answered for its crowd. */
    holdCrowd: (occasion: string, reason: string, most: number): number =>
      holdCrowd.run(reason, occasion, most).changes,
    approveCrowd: (occasion: string, at: number, most: number): number =>
      approveCrowd.run(at, occasion, most).changes,
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
    /** Begins anew with what the mail server brought to an end, and writes to its address again; false for anything else. */
    tryAgain(id: string, at: number): boolean {
      const row = one.get(id);
      if (!row || !endedByServer(row)) return false;
      forgive.run((row.to_address ?? row.email).toLowerCase());
      return tryAgain.run(at, id).changes === 1;
    },
    /** Approves a mail that is held. */
    approve: (id: string, at: number): boolean => approve.run({ id, at }).changes === 1,
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
    opened: (id: string, at: string): boolean => setOpened.run(at, id).changes === 1,
    /**
     * Somebody followed a link, at an instant in milliseconds. Whoever follows all links of an email within a second, before
     * it was opened, is a program that looks for harm: that is no click.
     */
    followed(id: string, number: number, at: number): void {
      forgetHits.run(at - 60 * SECOND);
      addHit.run(id, number, at);
      const all = kept.links(id)?.length ?? 0;
      const isScan = all > 1 && (hits.get(id, at - SECOND) ?? 0) >= Math.min(all, MOST_BY_HAND);
      if (isScan) takeBackClick.run(id, new Date(at - SECOND).toISOString());
      else setClicked.run(new Date(at).toISOString(), id);
    },
    list(wanted: OutboxWanted, limit: number, offset: number): OutboxRow[] {
      return db
        .prepare<object, OutboxRow>(
          `SELECT * FROM ${inOrder(wanted)} WHERE ${whereOf(wanted)}
           ORDER BY made_at DESC, rowid DESC LIMIT @limit OFFSET @offset`,
        )
        .all({ ...given(wanted), limit, offset });
    },
    count: (wanted: OutboxWanted): number =>
      db
        .prepare<object, number>(`SELECT COUNT(*) FROM outbox WHERE ${whereOf(wanted)}`)
        .pluck()
        .get(given(wanted)) ?? 0,
    /**
     * The next rows in the order of the list, behind the last that was read; so many at most. Very many may have been made
     * at one instant: those are found by their place alone.
     */
    after(wanted: OutboxWanted, last: OutboxPlace | null, most: number): PlacedRow[] {
      const rows = (further: string, limit: number) =>
        db
          .prepare<object, PlacedRow>(
            `SELECT *, rowid AS n FROM ${inOrder(wanted)} WHERE ${whereOf(wanted)} AND ${further}
             ORDER BY made_at DESC, rowid DESC LIMIT @limit`,
          )
          .all({ ...given(wanted), ...(last ?? { made_at: AFTER_ALL, n: 0 }), limit });
      const beside = last === null ? [] : rows('made_at = @made_at AND rowid < @n', most);
      if (beside.length === most) return beside;
      return [...beside, ...rows('made_at < @made_at', most - beside.length)];
    },
    states: (shop: string) =>
      db
        .prepare<[string], { state: OutboxState; count: number }>(
          'SELECT state, COUNT(*) AS count FROM outbox INDEXED BY outbox_of_state WHERE shop = ? GROUP BY state',
        )
        .all(shop),
    /** Why emails of a shop do not go, by the first sentence of the reason. */
    reasons: (shop: string) =>
      db
        .prepare<[string], { state: OutboxState; reason: string; count: number }>(
          `SELECT state, substr(reason, 1, coalesce(nullif(instr(reason, '. '), 0), length(reason))) AS reason, COUNT(*) AS count
           FROM outbox INDEXED BY outbox_of_state
           WHERE shop = ? AND state IN ('waiting', 'held', 'ready', 'in_doubt', 'stopped', 'bounced') AND reason IS NOT NULL
           GROUP BY 1, 2 ORDER BY count DESC LIMIT 60`,
        )
        .all(shop),
    steps: (occasion: string) =>
      db
        .prepare<[string], { step: string; state: OutboxState; count: number }>(
          'SELECT step, state, COUNT(*) AS count FROM outbox WHERE occasion = ? GROUP BY step, state',
        )
        .all(occasion),
    refuseAddress: (email: string, at: string, reason: string): void =>
      void refuse.run(email, at, reason),
    refusedAddress: (email: string): string | null => refused.get(email) ?? null,
  };
}
export type OutboxRepository = ReturnType<typeof outboxRepository>;
export const aboutOf = ({ about }: OutboxRow): About => JSON.parse(about) as About;
