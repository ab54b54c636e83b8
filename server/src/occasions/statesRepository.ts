import {
  NEW_STATE,
  nextDue,
  type ToldEffect,
  type PersonState,
  type Plan,
  type Run,
} from '@carafe/core/occasion';
import type { Db } from '../database/open';

/** Somebody inside an occasion, or about to come in. */
export interface Inside {
  email: string;
  occasion: string;
  cause: string;
  version: number;
  /** Milliseconds; null for who only may come in. */
  entered: number | null;
  due: number;
  /** The step that comes next. */
  step: string | null;
}
/** How many go by a version of an occasion and wait before a step, inside and about to come in. */
interface InsideCount {
  step: string | null;
  version: number;
  inside: number;
  armed: number;
  /** Milliseconds. */
  next: number;
}

/** A state as it is stored, by whatever version of Carafe; throws where it is damaged. */
function readState(text: string): PersonState {
  const { runs, settled, segments } = JSON.parse(text) as Partial<PersonState>;
  const isSound =
    (runs === undefined || (Array.isArray(runs) && runs.every(isRun))) &&
    [settled, segments].every((part) => part === undefined || isObject(part));
  if (!isSound) throw new SyntaxError('The state of this person cannot be read.');
  return { runs: runs ?? [], settled: settled ?? {}, mails: [], segments: segments ?? {} };
}
const isObject = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isRun = ({ occasion, cause, due, next, mails, about }: Partial<Run>): boolean =>
  [occasion, cause].every((one) => typeof one === 'string') &&
  [due, next].every((one) => typeof one === 'number') &&
  Array.isArray(mails) &&
  isObject(about);

/** The tables that hold what the engine knows: occasion_people, occasion_inside, occasion_trail. */
export function statesRepository(db: Db) {
  const one = db
    .prepare<[string, string], string>(
      'SELECT state FROM occasion_people WHERE shop = ? AND email = ?',
    )
    .pluck();
  const put = db.prepare(
    `INSERT INTO occasion_people (shop, email, due, state) VALUES (?, ?, ?, ?)
     ON CONFLICT (shop, email) DO UPDATE SET due = excluded.due, state = excluded.state`,
  );
  const aside = db.prepare('UPDATE occasion_people SET due = NULL WHERE shop = ? AND email = ?');
  const due = db.prepare<[number, number], { shop: string; email: string }>(
    'SELECT shop, email FROM occasion_people WHERE due <= ? ORDER BY due LIMIT ?',
  );
  const next = db.prepare<[], number | null>('SELECT MIN(due) FROM occasion_people').pluck();
  const clearInside = db.prepare('DELETE FROM occasion_inside WHERE shop = ? AND email = ?');
  const putInside = db.prepare(
    `INSERT INTO occasion_inside (shop, email, occasion, cause, version, entered, due, step)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const insideOf = db.prepare<[string, number, number], Inside>(
    `SELECT email, occasion, cause, version, entered, due, step FROM occasion_inside
     WHERE occasion = ? ORDER BY due LIMIT ? OFFSET ?`,
  );
  const insideOfPerson = db.prepare<[string, string], Inside>(
    `SELECT email, occasion, cause, version, entered, due, step FROM occasion_inside
     WHERE shop = ? AND email = ? ORDER BY due`,
  );
  const insideCounts = db.prepare<[string], InsideCount>(
    `SELECT step, version, COUNT(entered) AS inside, COUNT(*) - COUNT(entered) AS armed, MIN(due) AS next
     FROM occasion_inside INDEXED BY occasion_inside_counted WHERE occasion = ? GROUP BY step, version`,
  );
  const entered = db
    .prepare<[string, number], number>(
      `SELECT COUNT(*) FROM occasion_trail WHERE occasion = ? AND at >= ? AND effect ->> '$.kind' = 'entered'`,
    )
    .pluck();
  const tell = db.prepare(
    'INSERT INTO occasion_trail (shop, email, occasion, cause, at, effect) VALUES (?, ?, ?, ?, ?, ?)',
  );
  const trail = db.prepare<[string, string, number], { effect: string }>(
    'SELECT effect FROM occasion_trail WHERE shop = ? AND email = ? ORDER BY id DESC LIMIT ?',
  );
  const trailOfCause = db.prepare<[string, string, string, string], { effect: string }>(
    'SELECT effect FROM occasion_trail WHERE shop = ? AND email = ? AND occasion = ? AND cause = ? ORDER BY id',
  );
  const forget = db.prepare(
    `DELETE FROM occasion_trail WHERE rowid IN (
       SELECT rowid FROM occasion_trail WHERE at < ? ORDER BY at LIMIT ?)`,
  );
  return {
    get(shop: string, email: string): PersonState {
      const text = one.get(shop, email);
      return text === undefined ? NEW_STATE : readState(text);
    },
    put(
      shop: string,
      email: string,
      state: PersonState,
      planOf: (id: string, version: number) => Plan | null,
    ): void {
      put.run(shop, email, nextDue(state), JSON.stringify(state));
      clearInside.run(shop, email);
      for (const run of state.runs) {
        const op = planOf(run.occasion, run.version)?.ops[run.next];
        const step =
          !op || op.op === 'jump' ? null : typeof op.step === 'string' ? op.step : op.step.id;
        const { occasion, cause, version, entered: since, due: at } = run;
        putInside.run(shop, email, occasion, cause, version, since, at, step);
      }
    },
    /** Somebody whose look failed is not looked at again with the others. */
    setAside: (shop: string, email: string): void => void aside.run(shop, email),
    /** Who is to be looked at, the longest overdue first. */
    due: (until: number, most: number) => due.all(until, most),
    nextDue: (): number | null => next.get() ?? null,
    insideOf: (occasion: string, most: number, offset: number) =>
      insideOf.all(occasion, most, offset),
    insideOfPerson: (shop: string, email: string) => insideOfPerson.all(shop, email),
    insideCounts: (occasion: string) => insideCounts.all(occasion),
    /** How many came in since an instant. */
    entered: (occasion: string, since: number): number => entered.get(occasion, since) ?? 0,
    tell(shop: string, email: string, effects: readonly ToldEffect[]): void {
      for (const effect of effects)
        tell.run(shop, email, effect.occasion, effect.cause, effect.at, JSON.stringify(effect));
    },
    /** What was told of somebody, the latest first. */
    trail: (shop: string, email: string, most: number): ToldEffect[] =>
      trail.all(shop, email, most).map(({ effect }) => JSON.parse(effect) as ToldEffect),
    trailOfCause: (shop: string, email: string, occasion: string, cause: string): ToldEffect[] =>
      trailOfCause
        .all(shop, email, occasion, cause)
        .map(({ effect }) => JSON.parse(effect) as ToldEffect),
    /** Forgets the oldest of what was told before an instant (milliseconds). Gives how many. */
    forgetTrail: (before: number, most: number): number => forget.run(before, most).changes,
  };
}
export type StatesRepository = ReturnType<typeof statesRepository>;
