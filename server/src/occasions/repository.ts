import { Occasion } from '@carafe/core/occasion';
import type { Db } from '../database/open';
import { documentReader, nameIn, type Damaged } from '../database/storedDocument';

interface Row {
  id: string;
  shop: string;
  version: number;
  document: string;
  published: number | null;
  on_since: string | null;
  heeded_since: string | null;
  watching_since: string | null;
  off_at: string | null;
  changed_at: string;
}
export interface StoredDraft {
  id: string;
  shop: string;
  /** Counts up with every save. */
  version: number;
  /** Throws where what is stored of it is damaged, as only one that was found by its id, or as it is on, can be. */
  readonly occasion: Occasion;
  /** Its name, even where the rest is damaged. */
  readonly name: string;
  /** The version that is on, or was last. */
  published: number | null;
  /** Null while it is off. */
  on_since: string | null;
  /** Since when what happens is heeded by its start as it is published; null while it is off. */
  heeded_since: string | null;
  /** Since when its segment has been watched without a break; null while it is off. */
  watching_since: string | null;
  /** When it was switched off last: what it created before is not sent. */
  off_at: string | null;
  changed_at: string;
}

/** Since when an occasion is on, its start heeded, and its segment watched. */
export interface OnSince {
  on: string;
  heeded: string;
  watching: string;
}

const documents = documentReader('occasion', Occasion);

/** The occasions, occasion_versions and occasion_times tables. */
export function occasionsRepository(db: Db) {
  const columns =
    'id, shop, version, document, published, on_since, heeded_since, watching_since, off_at, changed_at';
  const all = db.prepare<[string], Row>(
    `SELECT ${columns} FROM occasions WHERE shop = ? AND deleted_at IS NULL ORDER BY rowid`,
  );
  const one = db.prepare<[string], Row>(
    `SELECT ${columns} FROM occasions WHERE id = ? AND deleted_at IS NULL`,
  );
  const on = db.prepare<[string], Row>(
    `SELECT ${columns} FROM occasions WHERE shop = ? AND on_since IS NOT NULL AND deleted_at IS NULL ORDER BY rowid`,
  );
  const everyRow = db.prepare<[], Pick<Row, 'id' | 'shop' | 'document'>>(
    `SELECT id, shop, document FROM occasions WHERE deleted_at IS NULL
     UNION ALL SELECT id, shop, v.document FROM occasions JOIN occasion_versions v ON occasion = id AND number = published
     WHERE on_since IS NOT NULL AND deleted_at IS NULL`,
  );
  const insert = db.prepare(
    'INSERT INTO occasions (id, shop, version, document, changed_at) VALUES (?, ?, 1, ?, ?)',
  );
  const save = db.prepare(
    'UPDATE occasions SET document = ?, version = version + 1, changed_at = ? WHERE id = ?',
  );
  const switchOn = db.prepare(
    `UPDATE occasions SET published = @number, on_since = @on, heeded_since = @heeded, watching_since = @watching
     WHERE id = @id`,
  );
  const switchOff = db.prepare(
    'UPDATE occasions SET on_since = NULL, heeded_since = NULL, watching_since = NULL, off_at = ? WHERE id = ?',
  );
  const remove = db.prepare('UPDATE occasions SET deleted_at = ?, on_since = NULL WHERE id = ?');
  const restore = db.prepare('UPDATE occasions SET deleted_at = NULL WHERE id = ?');
  const version = db
    .prepare<[string, number], string>(
      'SELECT document FROM occasion_versions WHERE occasion = ? AND number = ?',
    )
    .pluck();
  const versions = db.prepare<[string], { number: number; at: string }>(
    'SELECT number, at FROM occasion_versions WHERE occasion = ? ORDER BY number DESC',
  );
  const publish = db.prepare(
    'INSERT INTO occasion_versions (occasion, number, at, document) VALUES (?, ?, ?, ?)',
  );
  const setTime = db.prepare(
    `INSERT INTO occasion_times (occasion, next_at, wall) VALUES (?, ?, ?)
     ON CONFLICT (occasion) DO UPDATE SET next_at = excluded.next_at, wall = excluded.wall`,
  );
  const dropTime = db.prepare('DELETE FROM occasion_times WHERE occasion = ?');
  const time = db.prepare<[string], { next_at: number; wall: number }>(
    'SELECT next_at, wall FROM occasion_times WHERE occasion = ?',
  );
  const dueTimes = db.prepare<[number], { occasion: string; next_at: number; wall: number }>(
    'SELECT occasion, next_at, wall FROM occasion_times WHERE next_at <= ? ORDER BY next_at',
  );
  const read = ({ document, ...row }: Row): StoredDraft => ({
    ...row,
    get occasion() {
      return documents.read(document);
    },
    get name() {
      return documents.damage(document) === null
        ? documents.read(document).name
        : (nameIn(document) ?? row.id);
    },
  });
  return {
    /** Those of a shop whose drafts can be read. */
    list: (shop: string): StoredDraft[] => documents.readable(all.all(shop)).map(read),
    find(id: string): StoredDraft | null {
      const row = one.get(id);
      return row ? read(row) : null;
    },
    /** Those of a shop that are on, whether or not their drafts can be read. */
    on: (shop: string): StoredDraft[] => on.all(shop).map(read),
    /** What cannot be read, of all shops; of versions only those that are on. */
    damaged: (): Damaged[] => documents.damaged(everyRow.all()),
    insert: (id: string, shop: string, occasion: Occasion, now: string): void =>
      void insert.run(id, shop, JSON.stringify(occasion), now),
    save: (id: string, occasion: Occasion, now: string): void =>
      void save.run(JSON.stringify(occasion), now, id),
    /** Switches a version on. */
    switchOn: (id: string, number: number, since: OnSince): void =>
      void switchOn.run({ id, number, ...since }),
    switchOff: (id: string, now: string): void => void switchOff.run(now, id),
    /** Brings a deleted one back, switched off. */
    restore: (id: string): void => void restore.run(id),
    remove: (id: string, now: string): void => void remove.run(now, id),
    /** A version; null where there is none. Throws where it is damaged. */
    document(id: string, number: number): Occasion | null {
      const text = version.get(id, number);
      return text === undefined ? null : documents.read(text);
    },
    /** An occasion as it is published; null where it never was, or where that cannot be read. */
    live({ id, published }: Pick<StoredDraft, 'id' | 'published'>): Occasion | null {
      const text = published === null ? undefined : version.get(id, published);
      return text === undefined || documents.damage(text) !== null ? null : documents.read(text);
    },
    versions: (id: string) => versions.all(id),
    publish: (id: string, number: number, at: string, occasion: Occasion): void =>
      void publish.run(id, number, at, JSON.stringify(occasion)),
    setTime: (id: string, next: number, wall: number): void => void setTime.run(id, next, wall),
    dropTime: (id: string): void => void dropTime.run(id),
    time: (id: string) => time.get(id) ?? null,
    dueTimes: (until: number) => dueTimes.all(until),
  };
}
export type OccasionsRepository = ReturnType<typeof occasionsRepository>;
