import type { Db } from '../database/open';

const SECOND = 1_000;
/** Nobody follows so many links of one email within a second by hand. */
const MOST_BY_HAND = 5;

/** Openings and clicks, in the outbox and link_hits tables. `links` gives the links of an email. */
export function reactions(db: Db, links: (id: string) => readonly string[] | null) {
  const setOpened = db.prepare(
    'UPDATE outbox SET opened_at = ? WHERE id = ? AND opened_at IS NULL AND tracked = 1',
  );
  const setClicked = db.prepare(
    'UPDATE outbox SET clicked_at = ? WHERE id = ? AND clicked_at IS NULL AND tracked = 1',
  );
  const forgetHits = db.prepare('DELETE FROM link_hits WHERE at < ?');
  const addHit = db.prepare('INSERT INTO link_hits (mail, number, at) VALUES (?, ?, ?)');
  const hits = db
    .prepare<[string, number], number>(
      'SELECT COUNT(DISTINCT number) FROM link_hits WHERE mail = ? AND at > ?',
    )
    .pluck();
  const takeBackClick = db.prepare(
    'UPDATE outbox SET clicked_at = NULL WHERE id = ? AND opened_at IS NULL AND clicked_at >= ?',
  );
  return {
    /** Somebody opened an email; false where that is known, or not counted. */
    opened: (id: string, at: string): boolean => setOpened.run(at, id).changes === 1,
    /**
     * Somebody followed a link, at an instant in milliseconds. Whoever follows all links of an email within a second, before
     * it was opened, is a program that looks for harm: that is no click.
     */
    followed(id: string, number: number, at: number): void {
      forgetHits.run(at - 60 * SECOND);
      addHit.run(id, number, at);
      const all = links(id)?.length ?? 0;
      const isScan = all > 1 && (hits.get(id, at - SECOND) ?? 0) >= Math.min(all, MOST_BY_HAND);
      if (isScan) takeBackClick.run(id, new Date(at - SECOND).toISOString());
      else setClicked.run(new Date(at).toISOString(), id);
    },
  };
}
