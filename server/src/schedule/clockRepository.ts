import type { Db } from '../database/open';

/** The clock table: how far the clock was moved, in milliseconds. */
export function clockRepository(db: Db) {
  const one = db.prepare<[], number>('SELECT moved FROM clock').pluck();
  const put = db.prepare(
    'INSERT INTO clock (one, moved) VALUES (1, ?) ON CONFLICT (one) DO UPDATE SET moved = excluded.moved',
  );
  return { moved: (): number => one.get() ?? 0, move: (to: number): void => void put.run(to) };
}
export type ClockRepository = ReturnType<typeof clockRepository>;
