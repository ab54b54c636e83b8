import { mailKey, type Went } from '@carafe/core/occasion';
import type { Db } from '../database/open';
import type { OutboxRow } from './repository';

interface Row extends Pick<OutboxRow, 'occasion' | 'cause' | 'step'> {
  /** ISO 8601; null where it never went. */
  went: string | null;
}

/** What goes so much later than it was made was held, or had to wait: in days, as SQLite counts them. */
const LATE = 1 / 24;

/** How mails of a person went: what was made for them is known to the engine, what became of it to the outbox. */
export function wentRepository(db: Db) {
  const otherwise = db.prepare<[string, string], Row>(
    `SELECT occasion, cause, step, CASE WHEN state IN ('stopped', 'bounced') THEN NULL ELSE sent_at END AS went
     FROM outbox WHERE shop = ? AND email = ? AND recipient = 'person'
       AND (state IN ('stopped', 'bounced') OR julianday(sent_at) - julianday(made_at) > ${LATE})`,
  );
  const since = db
    .prepare<[string, string, string, string], string | null>(
      `SELECT sent_at FROM outbox WHERE shop = ? AND email = ? AND id <> ? AND recipient = 'person' AND mail = 'marketing'
         AND state IN ('ready', 'sending', 'sent', 'in_doubt') AND coalesce(sent_at, '9999') > ?`,
    )
    .pluck();
  return {
    /** Of mails that went otherwise than when they were made: when, in milliseconds, or never; by their keys. */
    otherwise: (shop: string, email: string): Map<string, Went> =>
      new Map(
        otherwise
          .all(shop, email)
          .map(({ occasion, cause, step, went }) => [
            mailKey(occasion, cause, step),
            went === null ? null : Date.parse(went),
          ]),
      ),
    /**
     * When a person had their other marketing mails since an instant, in milliseconds; what is about to go counts as of
     * `now`.
     */
    marketingSince: ({ shop, email, id }: OutboxRow, from: number, now: number): number[] =>
      since
        .all(shop, email, id, new Date(from).toISOString())
        .map((at) => (at === null ? now : Date.parse(at))),
  };
}
export type WentRepository = ReturnType<typeof wentRepository>;
