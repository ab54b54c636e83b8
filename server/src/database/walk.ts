import type { Db } from './open';

/**
 * Rows of a query, one after the other. Each walk has a statement of its own: one that is being walked cannot be asked anything
 * else, and what is done with a row may walk the same table.
 */
export const walk =
  <P extends unknown[], Row>(db: Db, sql: string) =>
  (...given: P): IterableIterator<Row> =>
    db.prepare<P, Row>(sql).iterate(...given);
