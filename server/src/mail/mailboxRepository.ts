import type { Db } from '../database/open';

interface Row {
  id: string;
  received_at: string;
  sender: string;
  recipients: string;
  source: Buffer;
}
/** A mail as the stand-in server took it in. */
export interface Taken {
  id: string;
  received_at: string;
  from: string;
  to: string[];
  source: Buffer;
}

/** So many mails are kept, the latest. */
const MOST_KEPT = 5_000;
/** So many are listed. */
const MOST_LISTED = 500;

/** The mailbox table. */
export function mailboxRepository(db: Db) {
  const insert = db.prepare(
    'INSERT INTO mailbox (id, received_at, sender, recipients, source) VALUES (?, ?, ?, ?, ?)',
  );
  const latest = db.prepare<[number], Row>(
    'SELECT * FROM mailbox ORDER BY received_at DESC, rowid DESC LIMIT ?',
  );
  const one = db.prepare<[string], Row>('SELECT * FROM mailbox WHERE id = ?');
  const trim = db.prepare(
    'DELETE FROM mailbox WHERE rowid <= (SELECT rowid FROM mailbox ORDER BY rowid DESC LIMIT 1 OFFSET ?)',
  );
  const empty = db.prepare('DELETE FROM mailbox');
  const read = ({ id, received_at, sender, recipients, source }: Row): Taken => ({
    ...{ id, received_at, from: sender, to: JSON.parse(recipients) as string[], source },
  });
  return {
    insert({ id, received_at, from, to, source }: Taken): void {
      insert.run(id, received_at, from, JSON.stringify(to), source);
      trim.run(MOST_KEPT);
    },
    latest: (): Taken[] => latest.all(MOST_LISTED).map(read),
    find(id: string): Taken | null {
      const row = one.get(id);
      return row ? read(row) : null;
    },
    empty: (): void => void empty.run(),
  };
}
export type MailboxRepository = ReturnType<typeof mailboxRepository>;
