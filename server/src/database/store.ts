import type { WriteLane } from './lane';
import { openDatabase, type Db } from './open';

/** The database, and the one way to write to it. */
export interface Store {
  db: Db;
  /** Runs `work` as one short transaction, when it is its turn. */
  write<T>(work: () => T): Promise<T>;
  /**
   * The same for long work, in slices: `step` does about `size` rows and says whether there is more.
   * Others write between the slices, so that nobody waits long.
   */
  writeInSlices(step: (size: number) => boolean): Promise<void>;
  /** Brings what the write-ahead log holds over to the database. Others read and write meanwhile. */
  checkpoint(): void;
  close(): void;
}

/** A slice takes about so long, in milliseconds. */
const SLICE_MS = 25;
const FIRST_SIZE = 100;
const MOST_SIZE = 20_000;
/** Long work brings the log over after so many slices: too often, and the same pages are written again and again. */
const SLICES_A_CHECKPOINT = 200;

/** Opens the database and brings its tables forward. */
export function openStore(file: string, migrations: string, lane: WriteLane): Store {
  const db = openDatabase(file, migrations);
  let slices = 0;
  // Passive: it waits for nobody, and nobody waits for it.
  const checkpoint = () => void db.pragma('wal_checkpoint(PASSIVE)');
  const inTransaction = <T>(work: () => T): T => db.transaction(work).immediate();
  return {
    db,
    write: (work) => lane.turn(() => inTransaction(work)),
    async writeInSlices(step) {
      let size = FIRST_SIZE;
      for (let more = true; more;) {
        let took = 0;
        more = await lane.turn(() => {
          const start = performance.now();
          const isMore = inTransaction(() => step(size));
          took = performance.now() - start;
          return isMore;
        });
        size = Math.max(
          1,
          Math.min(MOST_SIZE, Math.round(size * Math.min(2, SLICE_MS / (took + 1)))),
        );
        if (++slices % SLICES_A_CHECKPOINT === 0) checkpoint();
      }
    },
    checkpoint,
    close: () => void db.close(),
  };
}
