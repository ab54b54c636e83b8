import type { OutboxState } from '@carafe/contract';
import type { Db } from '../database/open';
import type { OutboxRow } from './row';

/** Where a row stands in the order of the list. */
export interface OutboxPlace {
  made_at: string;
  n: number;
}
export type PlacedRow = OutboxRow & OutboxPlace;

export interface OutboxWanted {
  shop: string;
  state?: OutboxState | undefined;
  occasion?: string | undefined;
  step?: string | undefined;
  email?: string | undefined;
  search?: string | undefined;
  /** How the reason begins. */
  reason?: string | undefined;
}

/** What a person is called, of their record. */
const NAME = `trim(coalesce(json_extract(record, '$.first_name'), '') || ' ' || coalesce(json_extract(record, '$.last_name'), ''))`;
/** Later than any date of ISO 8601. */
const AFTER_ALL = '~';

/** The outbox as people look through it: filtered, counted, a page at a time. */
export function outboxLists(db: Db) {
  const whereOf = ({ state, occasion, step, email, search, reason }: OutboxWanted) =>
    [
      'shop = @shop',
      state && 'state = @state',
      occasion && 'occasion = @occasion',
      step && 'step = @step',
      email && 'email = @email',
      reason && 'substr(reason, 1, length(@reason)) = @reason',
      search &&
        `(email LIKE @like ESCAPE '\\' OR subject LIKE @like ESCAPE '\\' OR email IN
          (SELECT email FROM people WHERE shop = @shop AND ${NAME} LIKE @like ESCAPE '\\'))`,
    ]
      .filter(Boolean)
      .join(' AND ');
  /** The index that gives the rows in the order of the list: nothing is sorted, however many they are. */
  const inOrder = ({ state, email }: OutboxWanted) =>
    `outbox INDEXED BY ${email ? 'outbox_of_person' : state ? 'outbox_of_state' : 'outbox_in_time'}`;
  const given = (wanted: OutboxWanted) => ({
    ...wanted,
    like: `%${(wanted.search ?? '').replace(/[\\%_]/g, '\\$&')}%`,
  });
  return {
    list(wanted: OutboxWanted, limit: number, offset: number): OutboxRow[] {
      return db
        .prepare<object, OutboxRow>(
          `SELECT *, (SELECT ${NAME} FROM people WHERE people.shop = outbox.shop AND people.email = outbox.email) AS name
           FROM ${inOrder(wanted)} WHERE ${whereOf(wanted)}
           ORDER BY made_at DESC, rowid DESC LIMIT @limit OFFSET @offset`,
        )
        .all({ ...given(wanted), limit, offset });
    },
    count: (wanted: OutboxWanted): number =>
      db
        .prepare<object, number>(`SELECT COUNT(*) FROM outbox WHERE ${whereOf(wanted)}`)
        .pluck()
        .get(given(wanted)) ?? 0,
    /**
     * The next rows in the order of the list, behind the last that was read; so many at most. Very many may have been made
     * at one instant: those are found by their place alone.
     */
    after(wanted: OutboxWanted, last: OutboxPlace | null, most: number): PlacedRow[] {
      const rows = (further: string, limit: number) =>
        db
          .prepare<object, PlacedRow>(
            `SELECT *, rowid AS n FROM ${inOrder(wanted)} WHERE ${whereOf(wanted)} AND ${further}
             ORDER BY made_at DESC, rowid DESC LIMIT @limit`,
          )
          .all({ ...given(wanted), ...(last ?? { made_at: AFTER_ALL, n: 0 }), limit });
      const beside = last === null ? [] : rows('made_at = @made_at AND rowid < @n', most);
      if (beside.length === most) return beside;
      return [...beside, ...rows('made_at < @made_at', most - beside.length)];
    },
    states: (shop: string) =>
      db
        .prepare<[string], { state: OutboxState; count: number }>(
          'SELECT state, COUNT(*) AS count FROM outbox INDEXED BY outbox_of_state WHERE shop = ? GROUP BY state',
        )
        .all(shop),
    /** Why emails of a shop do not go, by the first sentence of the reason. */
    reasons: (shop: string) =>
      db
        .prepare<[string], { state: OutboxState; reason: string; count: number }>(
          `SELECT state, substr(reason, 1, coalesce(nullif(instr(reason, '. '), 0), length(reason))) AS reason, COUNT(*) AS count
           FROM outbox INDEXED BY outbox_of_state
           WHERE shop = ? AND state IN ('waiting', 'held', 'ready', 'in_doubt', 'stopped', 'bounced') AND reason IS NOT NULL
           GROUP BY 1, 2 ORDER BY count DESC LIMIT 60`,
        )
        .all(shop),
    steps: (occasion: string) =>
      db
        .prepare<[string], { step: string; state: OutboxState; count: number }>(
          'SELECT step, state, COUNT(*) AS count FROM outbox WHERE occasion = ? GROUP BY step, state',
        )
        .all(occasion),
  };
}
