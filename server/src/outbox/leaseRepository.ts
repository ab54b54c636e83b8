import type { Db } from '../database/open';

interface Lease {
  holder: string;
  host: string;
  pid: number;
  until: number;
}

/** The sender_lease table: who may send. */
export function leaseRepository(db: Db) {
  const one = db.prepare<[], Lease>('SELECT holder, host, pid, until FROM sender_lease');
  const put = db.prepare(
    `INSERT INTO sender_lease (one, holder, host, pid, until) VALUES (1, @holder, @host, @pid, @until)
     ON CONFLICT (one) DO UPDATE SET holder = excluded.holder, host = excluded.host, pid = excluded.pid,
       until = excluded.until`,
  );
  const drop = db.prepare('DELETE FROM sender_lease WHERE holder = ?');
  return {
    get: (): Lease | null => one.get() ?? null,
    put: (lease: Lease): void => void put.run(lease),
    drop: (holder: string): void => void drop.run(holder),
  };
}
export type LeaseRepository = ReturnType<typeof leaseRepository>;
