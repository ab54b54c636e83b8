import type { WriteLane } from './lane';
import { CACHE_SIZE, openDatabase, type Db } from './open';
import { Slices, type Others, type Step } from './slices';

/** The database, and the one way to write to it. */
export interface Store {
  db: Db;
  /** Runs `work` as one short transaction, when it is its turn. */
  write<T>(work: () => T): Promise<T>;
  /** The same for long work, in slices: others write between them, so that nobody waits long. */
  writeInSlices(step: Step): Promise<void>;
  /**
   * The same for rows that were checked before, and that nobody sees until all are written: a slice that fails takes
   * those of its transaction back with it, and the database does not look whether what rows refer to is there. So it
   * need not copy each page that a slice changes.
   */
  writeInBulk(step: Step): Promise<void>;
  /** Runs long work with room in memory for the indexes that it touches all over. */
  withRoom<T>(work: () => Promise<T>): Promise<T>;
  /** A number that is another once anybody else has written to the database. */
  othersWrote(): number;
  /** Brings what the write-ahead log holds over to the database. Others read and write meanwhile. */
  checkpoint(): void;
  close(): void;
}

/** Long work brings the log over this often: more often, and the same pages are written again and again. */
const CHECKPOINT_MS = 5_000;

/** 200 MB, in SQLite’s negative KiB. */
const ROOM = -200_000;

/** Opens the database and brings its tables forward. */
export function openStore(file: string, migrations: string, lane: WriteLane): Store {
  const db = openDatabase(file, migrations);
  let broughtOver = performance.now();
  const others: Others = { until: 0 };
  // Passive: it waits for nobody, and nobody waits for it.
  const checkpoint = () => void db.pragma('wal_checkpoint(PASSIVE)');
  const inTransaction = <T>(work: () => T): T => db.transaction(work).immediate();
  const unchecked = <T>(work: () => T): T => {
    db.pragma('foreign_keys = OFF');
    try {
      return inTransaction(work);
    } finally {
      db.pragma('foreign_keys = ON');
    }
  };
  const inSlices = async (slices: Slices, transaction: typeof inTransaction): Promise<void> => {
    for (let more = true; more;) {
      more = await lane.turn(() => transaction(() => slices.some()));
      slices.rethrow();
      if (performance.now() - broughtOver < CHECKPOINT_MS) continue;
      checkpoint();
      broughtOver = performance.now();
    }
  };
  const isWanted = () => lane.isWanted();
  return {
    db,
    write: (work) => lane.turn(() => inTransaction(work)),
    writeInSlices: (step) => inSlices(new Slices(db, step, isWanted, others), inTransaction),
    writeInBulk: (step) => inSlices(new Slices(db, step, isWanted, others, true), unchecked),
    async withRoom(work) {
      db.pragma(`cache_size = ${ROOM}`);
      try {
        return await work();
      } finally {
        db.pragma(`cache_size = ${CACHE_SIZE}`);
        db.pragma('shrink_memory');
      }
    },
    othersWrote: () => db.pragma('data_version', { simple: true }) as number,
    checkpoint,
    close: () => void db.close(),
  };
}
