import type { Fields } from '@carafe/core/formula';
import { fieldsChanged, type PersonChange } from '@carafe/core/record';
import type { Db } from '../database/open';

/** So many changes are kept at most: the oldest go. */
const MOST_KEPT = 1_000_000;

interface Row {
  person: number;
  at: string;
  before: string;
}

/** What imports and events changed of people’s fields. */
export function peopleChangesRepository(db: Db, most = MOST_KEPT) {
  const recordOf = db
    .prepare<[string, string], string>('SELECT record FROM people WHERE shop = ? AND email = ?')
    .pluck();
  const insert = db.prepare('INSERT INTO people_changes (person, at, before) VALUES (?, ?, ?)');
  const since = db.prepare<[string, string], Row>(
    `SELECT person, at, before FROM json_each(?) AS wanted CROSS JOIN people_changes ON person = wanted.value
     WHERE at >= ? ORDER BY people_changes.id`,
  );
  const old = db
    .prepare<[string, number], number>(
      'SELECT id FROM people_changes WHERE at < ? OR id <= (SELECT MAX(id) FROM people_changes) - ? ORDER BY id',
    )
    .pluck();
  const remove = db.prepare('DELETE FROM people_changes WHERE id = ?');
  return {
    /** What is kept of somebody, to be compared; undefined for who is not known. */
    recordOf: (shop: string, email: string): string | undefined => recordOf.get(shop, email),
    /** Notes what is known otherwise of somebody since an instant (ISO 8601); both records are JSON. */
    note(person: number, at: string, before: string, after: string): void {
      const changed = fieldsChanged(JSON.parse(before) as Fields, JSON.parse(after) as Fields);
      if (Object.keys(changed).length > 0) insert.run(person, at, JSON.stringify(changed));
    },
    /** What changed of some people at an instant (ISO 8601) or later, by their ids, as it came. */
    since(ids: readonly number[], at: string): Map<number, PersonChange[]> {
      const found = new Map<number, PersonChange[]>();
      for (const row of since.all(JSON.stringify(ids), at)) {
        const own = found.get(row.person) ?? [];
        found.set(row.person, own);
        own.push({ at: Date.parse(row.at), before: JSON.parse(row.before) as Fields });
      }
      return found;
    },
    /** Those from before an instant (ISO 8601), and those that are too many. */
    old: (at: string): number[] => old.all(at, most),
    remove(some: readonly number[]): void {
      for (const id of some) remove.run(id);
    },
  };
}
export type PeopleChangesRepository = ReturnType<typeof peopleChangesRepository>;
