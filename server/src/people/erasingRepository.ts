import type { Db } from '../database/open';

/** What was deleted of a person, and what was kept. */
export interface Erased {
  events: number;
  rows: number;
  emails: number;
  /** Whether it is kept that the mail server refused the address. */
  isRefused: boolean;
}

/** An address that stands for nobody: what is kept of emails is counted by it. */
const NOBODY = 'erased';

/** All tables that hold something of a person, for erasing one. */
export function erasingRepository(db: Db) {
  const person = db
    .prepare<[string, string], number>('SELECT id FROM people WHERE shop = ? AND email = ?')
    .pluck();
  const statement = (sql: string) => db.prepare(sql);
  const ofId = [
    'DELETE FROM people_changes WHERE person = ?',
    'DELETE FROM shoppers WHERE person = ?',
    'DELETE FROM people WHERE id = ?',
  ].map(statement);
  const ofAddress = [
    'DELETE FROM stale_people WHERE shop = ? AND email = ?',
    'DELETE FROM occasion_people WHERE shop = ? AND email = ?',
    'DELETE FROM occasion_inside WHERE shop = ? AND email = ?',
    'DELETE FROM occasion_trail WHERE shop = ? AND email = ?',
    `DELETE FROM jobs WHERE kind = 'person' AND key = ? || ' ' || ?`,
  ].map(statement);
  const visitors = db
    .prepare<[string, string], string>(
      'SELECT DISTINCT visitor FROM events WHERE shop = ? AND owner = ? AND visitor IS NOT NULL',
    )
    .pluck();
  const events = db.prepare('DELETE FROM events WHERE shop = ? AND (owner = ? OR email = ?)');
  // Rows of sources: of the shop, and those that several shops share.
  const rows = db.prepare(
    `DELETE FROM entries WHERE owner = ? AND source IN (SELECT id FROM sources WHERE shop = ? OR shop IS NULL)`,
  );
  const sources = db.prepare(
    'DELETE FROM outbox_sources WHERE id IN (SELECT id FROM outbox WHERE shop = ? AND email = ?)',
  );
  const stopped = db.prepare(
    `UPDATE outbox SET state = 'stopped', reason = 'This person was erased.', hold = NULL
     WHERE shop = ? AND email = ? AND state IN ('waiting', 'held', 'ready')`,
  );
  const emails = db.prepare(
    `UPDATE outbox SET email = '${NOBODY}', to_address = NULL, subject = NULL, about = '{}', beside = '{}',
       key = '${NOBODY} ' || id, message_id = NULL, tracked = 0
     WHERE shop = ? AND email = ?`,
  );
  const refused = db.prepare('SELECT 1 FROM refused_addresses WHERE email = ?');
  return {
    /** Deletes everything that is stored of a person; of emails it is kept that one was created, and what became of it. */
    erase(shop: string, email: string): Erased | null {
      const id = person.get(shop, email);
      const known = visitors.all(shop, email).length;
      if (id === undefined && known === 0) return null;
      if (id !== undefined) for (const one of ofId) one.run(id);
      for (const one of ofAddress) one.run(shop, email);
      const erased = {
        events: events.run(shop, email, email).changes,
        rows: rows.run(email, shop).changes,
      };
      stopped.run(shop, email);
      sources.run(shop, email);
      return {
        ...{ ...erased, emails: emails.run(shop, email).changes },
        isRefused: refused.get(email) !== undefined,
      };
    },
  };
}
export type ErasingRepository = ReturnType<typeof erasingRepository>;
