import type { Picture } from '@carafe/contract';
import type { Db } from '../database/open';

/** A picture as it is kept; who shows it is found in the templates. */
export type StoredPicture = Omit<Picture, 'used_by'>;
type Row = Omit<StoredPicture, 'tags' | 'focus'> & { tags: string; focus: string };

const read = (row: Row): StoredPicture => ({
  ...row,
  tags: JSON.parse(row.tags) as string[],
  focus: JSON.parse(row.focus) as StoredPicture['focus'],
});
const written = (one: StoredPicture): Row => ({
  ...one,
  tags: JSON.stringify(one.tags),
  focus: JSON.stringify(one.focus),
});

/** The pictures table. */
export function picturesRepository(db: Db) {
  const all = db.prepare<[], Row>('SELECT * FROM pictures ORDER BY made_at DESC, rowid DESC');
  const one = db.prepare<[string], Row>('SELECT * FROM pictures WHERE id = ?');
  const insert = db.prepare(
    `INSERT INTO pictures (id, name, alt, tags, type, width, height, bytes, focus, version, made_at)
     VALUES (@id, @name, @alt, @tags, @type, @width, @height, @bytes, @focus, @version, @made_at)`,
  );
  const update = db.prepare(
    `UPDATE pictures SET name = @name, alt = @alt, tags = @tags, type = @type, width = @width, height = @height,
     bytes = @bytes, focus = @focus, version = @version WHERE id = @id`,
  );
  const remove = db.prepare('DELETE FROM pictures WHERE id = ?');
  return {
    list: (): StoredPicture[] => all.all().map(read),
    find(id: string): StoredPicture | null {
      const row = one.get(id);
      return row ? read(row) : null;
    },
    insert: (picture: StoredPicture): void => void insert.run(written(picture)),
    update: (picture: StoredPicture): void => void update.run(written(picture)),
    remove: (id: string): void => void remove.run(id),
  };
}
export type PicturesRepository = ReturnType<typeof picturesRepository>;
