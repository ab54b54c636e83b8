import type { Db } from '../database/open';

export interface JournalPost {
  guid: string;
  title: string;
  summary: string;
  /** HTML. */
  content: string;
  image: string | null;
  author: string;
  category: string | null;
  /** ISO 8601. */
  published_at: string;
}

/** What the stand-in journal has published. */
export function journalRepository(db: Db) {
  const columns = 'guid, title, summary, content, image, author, category, published_at';
  const list = db.prepare<[string], JournalPost>(
    `SELECT ${columns} FROM journal_posts WHERE feed = ? ORDER BY published_at DESC, id DESC LIMIT 100`,
  );
  const insert = db.prepare(
    `INSERT INTO journal_posts (feed, guid, title, summary, content, image, author, category, published_at)
     VALUES (@feed, @guid, @title, @summary, @content, @image, @author, @category, @published_at)`,
  );
  return {
    list: (feed: string): JournalPost[] => list.all(feed),
    insert: (feed: string, post: JournalPost): void => void insert.run({ feed, ...post }),
  };
}
export type JournalRepository = ReturnType<typeof journalRepository>;
