import type { ProductChange } from '@carafe/core/record';
import type { Db } from '../database/open';

interface Row {
  sku: string;
  at: string;
  before: string;
  after: string;
}

/** A flag of a record as JSON has it. */
const flag = (record: string, name: string): string =>
  `json(CASE json_type(${record}, '$.${name}') WHEN 'true' THEN 'true' WHEN 'false' THEN 'false' ELSE 'null' END)`;
const field = (record: string, name: string): string => `json_extract(${record}, '$.${name}')`;
/** What is kept of a product. */
const kept = (record: string): string =>
  `json_object('price', ${field(record, 'price')}, 'was_price', ${field(record, 'was_price')},
     'in_stock', ${flag(record, 'in_stock')}, 'stock', ${field(record, 'stock')})`;
/** Of what is in stock each count would be a change: only whether there is some counts. */
const isThere = (record: string): string =>
  `(coalesce(${field(record, 'in_stock')}, 1) <> 0 AND coalesce(${field(record, 'stock')}, 1) > 0)`;

const read = ({ sku, at, before, after }: Row): ProductChange => ({
  ...{ sku, at: Date.parse(at) },
  before: JSON.parse(before) as ProductChange['before'],
  after: JSON.parse(after) as ProductChange['after'],
});

/** What imports changed of products: what they cost, and whether there were some. */
export function productChangesRepository(db: Db) {
  const seen = `SELECT sku, at, before, after FROM product_changes AS c JOIN sources ON sources.id = c.source
     WHERE c.source = ? AND c.generation <= sources.generation`;
  const since = db.prepare<[string, string], Row>(`${seen} AND at >= ? ORDER BY at, c.id`);
  // What the first import brought is no change of anything.
  const untold = db.prepare<[string], Row>(
    `${seen} AND c.generation > max(1, sources.told_generation) ORDER BY c.id`,
  );
  const ids = (sql: string) => db.prepare<[string, string | number], number>(sql).pluck();
  const unseen = ids('SELECT id FROM product_changes WHERE source = ? AND generation > ?');
  const old = ids('SELECT id FROM product_changes WHERE source = ? AND at < ?');
  const remove = db.prepare('DELETE FROM product_changes WHERE id = ?');
  const insert = db.prepare<object>(
    `INSERT INTO product_changes (source, generation, sku, at, before, after)
     SELECT id, generation, @sku, @at, @before, @after FROM sources WHERE id = @source`,
  );
  return {
    /** Tells what changed before anything was imported. */
    tell(
      source: string,
      changes: readonly { sku: string; at: Date; before: object; after: object }[],
    ) {
      for (const { sku, at, before, after } of changes)
        insert.run({
          ...{ source, sku, at: at.toISOString() },
          ...{ before: JSON.stringify(before), after: JSON.stringify(after) },
        });
    },
    /** Notes what a stretch of staged rows changes, before they are written; `from` exclusive, `to` inclusive. */
    note(given: { from: number; to: number; source: string; generation: number; now: string }) {
      db.prepare(
        `INSERT INTO product_changes (source, generation, sku, at, before, after)
         SELECT @source, @generation, s.key, @now, ${kept('e.record')}, ${kept('s.record')}
         FROM staging.staged AS s JOIN entries AS e
           ON e.source = @source AND e.key = s.key AND e.until IS NULL AND e.since < @generation
         WHERE s.n > @from AND s.n <= @to AND s.outcome = 'changed'
           AND (${field('s.record', 'price')} IS NOT ${field('e.record', 'price')}
             OR ${field('s.record', 'was_price')} IS NOT ${field('e.record', 'was_price')}
             OR ${isThere('s.record')} IS NOT ${isThere('e.record')})`,
      ).run(given);
    },
    /** What changed at an instant (ISO 8601) or later, in order. */
    since: (source: string, at: string): ProductChange[] => since.all(source, at).map(read),
    /** What the last import changed, and those before it that occasions were not told of. */
    untold: (source: string): ProductChange[] => untold.all(source).map(read),
    /** Those of imports that were cut off or gone back from. */
    unseen: (source: string, generation: number): number[] => unseen.all(source, generation),
    /** Those from before an instant (ISO 8601). */
    old: (source: string, at: string): number[] => old.all(source, at),
    remove(some: readonly number[]): void {
      for (const id of some) remove.run(id);
    },
  };
}
export type ProductChangesRepository = ReturnType<typeof productChangesRepository>;
