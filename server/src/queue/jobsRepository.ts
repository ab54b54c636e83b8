import type { Db } from '../database/open';

export interface QueuedJob {
  id: number;
  kind: string;
  key: string;
  shop: string | null;
  /** JSON. */
  payload: string;
  /** Milliseconds. */
  run_at: number;
  attempts: number;
  last_error: string | null;
  failed_at: number | null;
}

export interface NewJob {
  kind: string;
  key: string;
  shop?: string | null;
  payload?: unknown;
  /** Milliseconds. */
  runAt: number;
}

/** The jobs table. */
export function jobsRepository(db: Db) {
  const columns = 'id, kind, key, shop, payload, run_at, attempts, last_error, failed_at';
  const add = db.prepare(
    `INSERT INTO jobs (kind, key, shop, payload, run_at) VALUES (@kind, @key, @shop, @payload, @runAt)
     ON CONFLICT (kind, key) DO UPDATE SET run_at = min(run_at, excluded.run_at) WHERE failed_at IS NULL`,
  );
  const anew = db.prepare(
    `INSERT INTO jobs (kind, key, shop, payload, run_at) VALUES (@kind, @key, @shop, @payload, @runAt)
     ON CONFLICT (kind, key) DO UPDATE SET payload = excluded.payload, run_at = excluded.run_at, attempts = 0,
       last_error = NULL, failed_at = NULL, claimed_by = NULL, lease_until = NULL`,
  );
  const aside = db.prepare(
    `INSERT INTO jobs (kind, key, shop, payload, run_at, attempts, last_error, failed_at)
     VALUES (@kind, @key, @shop, @payload, @runAt, 1, @error, @at)
     ON CONFLICT (kind, key) DO UPDATE SET last_error = excluded.last_error, failed_at = excluded.failed_at`,
  );
  const due = db.prepare<[number, number], QueuedJob>(
    `SELECT ${columns} FROM jobs WHERE run_at <= ? AND coalesce(lease_until, 0) < ? ORDER BY run_at, id LIMIT 50`,
  );
  const claim = db.prepare(
    'UPDATE jobs SET claimed_by = ?, lease_until = ? WHERE id = ? AND coalesce(lease_until, 0) < ?',
  );
  const done = db.prepare('DELETE FROM jobs WHERE id = ?');
  const failed = db.prepare(
    `UPDATE jobs SET attempts = attempts + 1, last_error = ?, failed_at = ?, run_at = ?, claimed_by = NULL, lease_until = NULL
     WHERE id = ?`,
  );
  const asideAll = db.prepare<[], QueuedJob>(
    `SELECT ${columns} FROM jobs WHERE failed_at IS NOT NULL ORDER BY failed_at DESC LIMIT 500`,
  );
  const one = db.prepare<[number], QueuedJob>(`SELECT ${columns} FROM jobs WHERE id = ?`);
  const named = db.prepare<[string, string], { id: number }>(
    'SELECT id FROM jobs WHERE kind = ? AND key = ?',
  );
  const freed = db.prepare('UPDATE jobs SET claimed_by = NULL, lease_until = NULL');
  const retry = db.prepare('UPDATE jobs SET run_at = ?, lease_until = NULL WHERE id = ?');
  const figures = db.prepare<[number], { waiting: number; oldest: number | null; aside: number }>(
    `SELECT COUNT(*) FILTER (WHERE run_at <= ?) AS waiting, MIN(run_at) AS oldest, COUNT(failed_at) AS aside FROM jobs`,
  );
  return {
    /** Adds a job; one of its kind that waits for the same thing stays, and is done at the earlier time. */
    add: ({ shop = null, payload = null, ...job }: NewJob): void =>
      void add.run({ ...job, shop, payload: JSON.stringify(payload) }),
    /** The same, in the place of one that waits or was set aside: it is begun anew, with what is asked now. */
    addAnew: ({ shop = null, payload = null, ...job }: NewJob): void =>
      void anew.run({ ...job, shop, payload: JSON.stringify(payload) }),
    /** Keeps what failed, at an instant (milliseconds), to be tried again. */
    setAside: ({ shop = null, payload = null, ...job }: NewJob, error: string, at: number): void =>
      void aside.run({ ...job, shop, payload: JSON.stringify(payload), error, at }),
    due: (now: number): QueuedJob[] => due.all(now, now),
    claim: (id: number, by: string, now: number, until: number): boolean =>
      claim.run(by, until, id, now).changes === 1,
    done: (id: number): void => void done.run(id),
    failed: (id: number, error: string, at: number, again: number): void =>
      void failed.run(error, at, again, id),
    /** Which job waits for this, or is under way. */
    idOf: (kind: string, key: string): number | null => named.get(kind, key)?.id ?? null,
    /** Nobody does anything yet: what the last stop cut off is due again. */
    freeAll: (): void => void freed.run(),
    find: (id: number): QueuedJob | null => one.get(id) ?? null,
    /** What failed, the latest first. */
    asideAll: (): QueuedJob[] => asideAll.all(),
    retry: (id: number, at: number): void => void retry.run(at, id),
    /** How many are due, since when the oldest waits (milliseconds), and how many are set aside. */
    figures: (now: number) => figures.get(now) ?? { waiting: 0, oldest: null, aside: 0 },
  };
}
export type JobsRepository = ReturnType<typeof jobsRepository>;
