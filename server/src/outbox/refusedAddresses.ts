import type { FailedAddress } from '@carafe/contract';
import type { Db } from '../database/open';

/** The refused_addresses table: addresses, in small letters, of which a mail server said that there is no such one. */
export function refusedAddresses(db: Db) {
  const refuse = db.prepare(
    `INSERT INTO refused_addresses (email, at, reason) VALUES (?, ?, ?)
     ON CONFLICT (email) DO UPDATE SET at = excluded.at, reason = excluded.reason`,
  );
  const refused = db
    .prepare<[string], string>('SELECT reason FROM refused_addresses WHERE email = ?')
    .pluck();
  const found = 'instr(email, @q) > 0 OR instr(lower(reason), @q) > 0';
  const page = db.prepare<{ q: string; limit: number; offset: number }, FailedAddress>(
    `SELECT email, at, reason FROM refused_addresses WHERE ${found} ORDER BY at DESC, email LIMIT @limit OFFSET @offset`,
  );
  const count = db
    .prepare<{ q: string }, number>(`SELECT COUNT(*) FROM refused_addresses WHERE ${found}`)
    .pluck();
  const forgive = db.prepare('DELETE FROM refused_addresses WHERE email = ?');
  return {
    refuseAddress: (email: string, at: string, reason: string): void =>
      void refuse.run(email, at, reason),
    refusedAddress: (email: string): string | null => refused.get(email) ?? null,
    /** Those whose address or reason has some words, the latest first. */
    failedAddresses(search: string, limit: number, offset: number) {
      const q = search.trim().toLowerCase();
      return { total: count.get({ q }) ?? 0, addresses: page.all({ q, limit, offset }) };
    },
    /** Lets an address be written to again; false where it was not refused. */
    forgive: (email: string): boolean => forgive.run(email).changes === 1,
  };
}
