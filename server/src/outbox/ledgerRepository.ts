import { mailKey, type MadeMail } from '@carafe/core/occasion';
import type { LedgerEntry, RecentEmail } from '@carafe/core/sending';
import type { Db } from '../database/open';

interface Row {
  occasion: string;
  cause: string;
  step: string;
  mail: 'marketing' | 'service';
  state: string;
  made_at: string;
  next_at: number;
  went_at: number | null;
  priority: number;
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const GONE = ['sending', 'sent', 'in_doubt'];
/** Longer than any rest that is used, and enough for “how many ever”. */
const MOST = 1_000;

/**
 * When an email counts: what was handed over counts from when it was due, so that a queue of some minutes shifts no
 * day; where it was late by more than an hour, from when it went.
 */
function countsFrom({ state, made_at, next_at, went_at }: Row): number {
  if (went_at !== null && GONE.includes(state))
    return went_at - next_at <= HOUR ? next_at : went_at;
  return state === 'held' ? Date.parse(made_at) : next_at;
}

/** The one ledger: what each person has received or is about to receive, as the outbox holds it. */
export function ledgerRepository(db: Db) {
  const rows = db.prepare<[string, string, number], Row>(
    `SELECT occasion, cause, step, mail, state, made_at, next_at, went_at, priority
     FROM outbox INDEXED BY outbox_of_person
     WHERE shop = ? AND email = ? AND recipient = 'person' AND state NOT IN ('stopped', 'bounced')
     ORDER BY made_at DESC LIMIT ?`,
  );
  const recent = db.prepare<[string, number, number, string], RecentEmail>(
    `SELECT went_at AS at, coalesce(subject, '') AS subject, mail = 'marketing' AS marketing
     FROM outbox INDEXED BY outbox_of_address
     WHERE lower(to_address) = ? AND went_at BETWEEN ? AND ? AND id <> ? AND recipient = 'person'
       AND state IN ('sending', 'sent', 'in_doubt')`,
  );
  return {
    /** The emails of a person as the engine counts them, the latest last. */
    created: (shop: string, email: string): MadeMail[] =>
      rows
        .all(shop, email, MOST)
        .map((row) => {
          const { occasion, cause, step, mail } = row;
          return { occasion, cause, step, at: countsFrom(row), marketing: mail === 'marketing' };
        })
        .sort((a, b) => a.at - b.at),
    /** The same as the rule of sending reads them: what waits for approval counts for nothing. */
    entries: (shop: string, email: string): LedgerEntry[] =>
      rows.all(shop, email, MOST).flatMap((row) => {
        if (row.state === 'held') return [];
        const { occasion, cause, step, mail, priority } = row;
        return {
          ...{ key: mailKey(occasion, cause, step), occasion, cause, step, priority },
          ...{
            at: countsFrom(row),
            marketing: mail === 'marketing',
            isGone: GONE.includes(row.state),
          },
        };
      }),
    /** What went to an address within a day of an instant (milliseconds), but for one email. */
    recent: (address: string, at: number, but: string): RecentEmail[] =>
      recent
        .all(address.toLowerCase(), at - DAY, at + DAY, but)
        .map((one) => ({ ...one, marketing: Boolean(one.marketing) })),
  };
}
export type LedgerRepository = ReturnType<typeof ledgerRepository>;
