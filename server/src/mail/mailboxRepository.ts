import type { Db } from '../database/open';

interface Row {
  id: string;
  received_at: string;
  sender: string;
  recipients: string;
  source: Buffer;
}
/** Of a mail that the stand-in server took in: whom it is from and for. */
export interface TakenFrom {
  id: string;
  received_at: string;
  from: string;
  to: string[];
}
/** A mail as the stand-in server took it in. */
export interface Taken extends TakenFrom {
  source: Buffer;
}

/** So many mails are kept, the latest. */
const MOST_KEPT = 5_000;
/** So many are listed. */
const MOST_LISTED = 500;
/** How much of a mail its list reads: the headers stand at the beginning. */
const HEAD = 20_000;

/** The mailbox table. */
export function mailboxRepository(db: Db) {
  const insert = db.prepare(
    'INSERT INTO mailbox (id, received_at, sender, recipients, source) VALUES (?, ?, ?, ?, ?)',
  );
  const latest = db.prepare<[number], Omit<Row, 'source'>>(
    `SELECT id, received_at, sender, recipients FROM mailbox
     ORDER BY received_at DESC, rowid DESC LIMIT ?`,
  );
  const head = db
    .prepare<[number, string], Buffer>('SELECT substr(source, 1, ?) FROM mailbox WHERE id = ?')
    .pluck();
  const one = db.prepare<[string], Row>('SELECT * FROM mailbox WHERE id = ?');
  const trim = db.prepare(
    'DELETE FROM mailbox WHERE rowid <= (SELECT MAX(rowid) FROM mailbox) - ?',
  );
  const empty = db.prepare('DELETE FROM mailbox');
  const read = ({ id, received_at, sender, recipients }: Omit<Row, 'source'>): TakenFrom => ({
    ...{ id, received_at, from: sender, to: JSON.parse(recipients) as string[] },
  });
  return {
    insert({ id, received_at, from, to, source }: Taken): void {
      insert.run(id, received_at, from, JSON.stringify(to), source);
      trim.run(MOST_KEPT);
    },
    latest: (): TakenFrom[] => latest.all(MOST_LISTED).map(read),
    /** The beginning of a mail with its headers; null where it is not there. */
    head: (id: string): Buffer | null => head.get(HEAD, id) ?? null,
    find(id: string): Taken | null {
      const row = one.get(id);
      return row ? { ...read(row), source: row.source } : null;
    },
    empty: (): void => void empty.run(),
  };
}
export type MailboxRepository = ReturnType<typeof mailboxRepository>;
