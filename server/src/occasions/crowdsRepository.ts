import type { Db } from '../database/open';

/** An occasion that more people entered within an hour than its shop allows. */
export interface Crowd {
  occasion: string;
  shop: string;
  /** How many entered within the fullest hour, and how many the shop allows. */
  people: number;
  most: number;
}

/** An occasion that people entered and were not counted yet, and when the first of them did, in milliseconds. */
interface Uncounted {
  occasion: string;
  shop: string;
  from: number;
}

const HOUR = 3_600_000;

/** The crowds table: which occasions wait for an answer, and where people are still being let in. */
export function crowdsRepository(db: Db) {
  const begin = db.prepare(
    `INSERT INTO crowds (occasion, shop, state, since, uncounted_from) VALUES (@occasion, @shop, 'counting', 0, @at)
     ON CONFLICT (occasion) DO UPDATE SET
       state = iif(state = 'idle', 'counting', state),
       uncounted_from = min(coalesce(uncounted_from, @at), @at)`,
  );
  const uncounted = db.prepare<[], Uncounted>(
    `SELECT occasion, shop, uncounted_from AS "from" FROM crowds WHERE uncounted_from IS NOT NULL`,
  );
  const end = db.prepare(
    `UPDATE crowds SET state = iif(state = 'counting', 'idle', state), uncounted_from = NULL WHERE occasion = ?`,
  );
  const since = db.prepare<[string], number>('SELECT since FROM crowds WHERE occasion = ?').pluck();
  const ask = db.prepare(
    `UPDATE crowds SET state = 'asking', people = ?, most = ?, uncounted_from = NULL WHERE occasion = ?`,
  );
  const state = db.prepare<[string], string>('SELECT state FROM crowds WHERE occasion = ?').pluck();
  const asking = db.prepare<[], Crowd>(
    `SELECT occasion, shop, people, most FROM crowds WHERE state = 'asking' ORDER BY occasion`,
  );
  const answered = db.prepare(
    `UPDATE crowds SET state = 'idle', since = ? WHERE occasion = ? AND state = 'asking'`,
  );
  const drop = db.prepare('DELETE FROM crowds WHERE occasion = ?');
  const entries = db
    .prepare<[string, number], number>(
      `SELECT at FROM occasion_trail INDEXED BY occasion_trail_entered
       WHERE occasion = ? AND at > ? AND effect ->> '$.kind' = 'entered' ORDER BY at`,
    )
    .pluck();
  return {
    /** Somebody entered at an instant (milliseconds): nothing of the occasion leaves until they are counted. */
    begin: (occasion: string, shop: string, at: number): void =>
      void begin.run({ occasion, shop, at }),
    /** Where people entered and were not counted yet. */
    uncounted: (): Uncounted[] => uncounted.all(),
    end: (occasion: string): void => void end.run(occasion),
    isAsking: (occasion: string): boolean => state.get(occasion) === 'asking',
    isHeld: (occasion: string): boolean =>
      ['asking', 'counting'].includes(state.get(occasion) ?? ''),
    /** How many people entered an occasion within its fullest hour since the last answer, from an instant (milliseconds) on. */
    fullestHour(occasion: string, from: number): number {
      const times = entries.all(occasion, Math.max(from - HOUR, since.get(occasion) ?? 0));
      let first = 0;
      let most = 0;
      times.forEach((at, last) => {
        while ((times[first] ?? at) <= at - HOUR) first++;
        most = Math.max(most, last - first + 1);
      });
      return most;
    },
    ask: (occasion: string, people: number, most: number): void =>
      void ask.run(people, most, occasion),
    asking: (): Crowd[] => asking.all(),
    /** Somebody answered: from this instant (milliseconds) on entries are counted anew. */
    answered: (occasion: string, at: number): boolean => answered.run(at, occasion).changes === 1,
    drop: (occasion: string): void => void drop.run(occasion),
  };
}
export type CrowdsRepository = ReturnType<typeof crowdsRepository>;
