import { mailKey, overShare, type Reason, type ShopRules, type Went } from '@carafe/core/occasion';
import type { Db } from '../database/open';
import type { OutboxRow } from './repository';

interface Row extends Pick<OutboxRow, 'occasion' | 'cause' | 'step'> {
  /** Milliseconds; null where it never went. */
  went: number | null;
}

const HOUR = 3_600_000;
const WEEK = 7 * 24 * HOUR;
/**
 * What was let go so much later than it was made was held, or tried again: then it goes by the later time. When it left is no
 * measure: where the clock was moved on, mails of some days leave together.
 */
const LATE = HOUR;

/** How mails of a person went: what was made for them is known to the engine, what became of it to the outbox. */
export function wentRepository(db: Db) {
  const otherwise = db.prepare<[string, string], Row>(
    `SELECT occasion, cause, step, CASE WHEN state IN ('stopped', 'bounced') THEN NULL ELSE next_at END AS went
     FROM outbox WHERE shop = ? AND email = ? AND recipient = 'person'
       AND (state IN ('stopped', 'bounced')
         OR (state <> 'held' AND next_at - (julianday(made_at) - 2440587.5) * 86400000 > ${LATE}))`,
  );
  const since = db
    .prepare<[string, string, string, number], number>(
      `SELECT next_at FROM outbox WHERE shop = ? AND email = ? AND id <> ? AND recipient = 'person' AND mail = 'marketing'
         AND state IN ('sending', 'sent', 'in_doubt') AND next_at > ?`,
    )
    .pluck();
  return {
    /** Of mails that went otherwise than when they were made: when, in milliseconds, or never; by their keys. */
    otherwise: (shop: string, email: string): Map<string, Went> =>
      new Map(
        otherwise
          .all(shop, email)
          .map(({ occasion, cause, step, went }) => [mailKey(occasion, cause, step), went]),
      ),
    /**
     * Why a marketing mail that waited since it was made would be one too many now (in milliseconds): whether it may be one of the
     * mails of the day was asked when it was made, and others have gone since. Null where it is not, or did not wait.
     */
    isOneTooMany(row: OutboxRow, rules: ShopRules, now: number): Reason | null {
      const isAsked = row.mail === 'marketing' && row.recipient === 'person';
      // What is held is looked at as it would go now.
      const goes = row.state === 'held' ? now : row.next_at;
      if (!isAsked || goes - Date.parse(row.made_at) <= LATE) return null;
      const others = since.all(row.shop, row.email, row.id, now - WEEK);
      return overShare(
        others.map((at) => ({ marketing: true, at })),
        now,
        rules,
      );
    },
  };
}
export type WentRepository = ReturnType<typeof wentRepository>;
