import type { Db } from '../database/open';

/** So many are kept of a template, the latest. */
const MOST = 1_000;

/** The looked_variants table. */
export function lookedRepository(db: Db) {
  const all = db.prepare<[string], { variant: string; mark: string }>(
    'SELECT variant, mark FROM looked_variants WHERE template = ?',
  );
  const keep = db.prepare(
    `INSERT INTO looked_variants (template, variant, mark, at) VALUES (?, ?, ?, ?)
     ON CONFLICT (template, variant) DO UPDATE SET mark = excluded.mark, at = excluded.at`,
  );
  const drop = db.prepare('DELETE FROM looked_variants WHERE template = ? AND variant = ?');
  const forget = db.prepare(
    `DELETE FROM looked_variants WHERE template = @template AND variant IN (
       SELECT variant FROM looked_variants WHERE template = @template ORDER BY at DESC, variant LIMIT -1 OFFSET @most)`,
  );
  return {
    /** Marks of the mails that were seen, by variant. */
    of: (template: string): Record<string, string> =>
      Object.fromEntries(all.all(template).map(({ variant, mark }) => [variant, mark])),
    keep(template: string, variant: string, mark: string, at: string): void {
      keep.run(template, variant, mark, at);
      forget.run({ template, most: MOST });
    },
    drop: (template: string, variant: string): void => void drop.run(template, variant),
  };
}
export type LookedRepository = ReturnType<typeof lookedRepository>;
