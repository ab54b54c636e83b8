import { join } from 'node:path';
import Database from 'better-sqlite3';
import { StartProblem } from '../startProblem';

/**
 * Keeps a folder of data for this process, until it ends in whatever way: two servers on one database would do everything
 * twice. The lock is one of SQLite's, which the system lets go of when a process is killed.
 */
export function lockFolder(folder: string): { release: () => void } {
  const lock = new Database(join(folder, 'lock.db'), { timeout: 0 });
  try {
    lock.pragma('locking_mode = EXCLUSIVE');
    lock.exec(
      'BEGIN EXCLUSIVE; CREATE TABLE IF NOT EXISTS lock (one INTEGER); COMMIT; BEGIN EXCLUSIVE',
    );
  } catch (error) {
    lock.close();
    if (!((error as { code?: string }).code ?? '').startsWith('SQLITE_BUSY')) throw error;
    throw new StartProblem(
      `Another Carafe is running on ${folder}. Use that one, end it, or set CARAFE_DATA to another folder.`,
    );
  }
  return {
    release: () => {
      if (lock.inTransaction) lock.exec('ROLLBACK');
      lock.close();
    },
  };
}
