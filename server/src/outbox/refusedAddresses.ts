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
  const forgive = db.prepare('DELETE FROM refused_addresses WHERE email = ?');
  return {
    refuseAddress: (email: string, at: string, reason: string): void =>
      void refuse.run(email, at, reason),
    refusedAddress: (email: string): string | null => refused.get(email) ?? null,
    /** Lets an address be written to again. */
    forgive: (email: string): void => void forgive.run(email),
  };
}
