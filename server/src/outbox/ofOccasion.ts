import type { HoldReason } from '@carafe/core/sending';
import type { Db } from '../database/open';

/** What becomes of all emails of one occasion that were not sent yet; so many at a time. */
export function mailsOfOccasion(db: Db) {
  const OPEN = `state IN ('waiting', 'held', 'ready')`;
  const stopOf = db.prepare(
    `UPDATE outbox SET state = 'stopped', hold = NULL, reason = ?
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND ${OPEN} LIMIT ?)`,
  );
  const keepOf = db.prepare(
    `UPDATE outbox SET approved = trim(approved || ' switched_off')
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND ${OPEN} AND instr(approved, 'switched_off') = 0 LIMIT ?)`,
  );
  const holdCrowd = db.prepare(
    `UPDATE outbox SET state = 'held', hold = 'crowd', reason = ?
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND state IN ('waiting', 'ready')
       AND instr(approved, 'crowd') = 0 LIMIT ?)`,
  );
  const approveCrowd = db.prepare(
    `UPDATE outbox SET state = 'waiting', next_at = ?, hold = NULL, reason = NULL, approved = trim(approved || ' crowd')
     WHERE id IN (SELECT id FROM outbox WHERE occasion = ? AND state = 'held' AND hold = 'crowd' LIMIT ?)`,
  );
  const heldBy = db
    .prepare<[string, HoldReason], number>(
      `SELECT COUNT(*) FROM outbox WHERE occasion = ? AND state = 'held' AND hold = ?`,
    )
    .pluck();
  return {
    /** How many emails of an occasion are held for a reason. */
    heldBy: (occasion: string, why: HoldReason): number => heldBy.get(occasion, why) ?? 0,
    /** Stops what waits of an occasion, so many at most. Gives how many. */
    stopOf: (occasion: string, reason: string, most: number): number =>
      stopOf.run(reason, occasion, most).changes,
    /** Lets what waits of an occasion go though it is switched off. */
    keepOf: (occasion: string, most: number): number => keepOf.run(occasion, most).changes,
    /** Holds what an occasion has not sent yet until somebody has answered for its crowd. */
    holdCrowd: (occasion: string, reason: string, most: number): number =>
      holdCrowd.run(reason, occasion, most).changes,
    approveCrowd: (occasion: string, at: number, most: number): number =>
      approveCrowd.run(at, occasion, most).changes,
  };
}
