import type { ShopEvent } from '@carafe/core/record';
import type { Db } from '../database/open';

/** What happened and occasions are still to be told of: kept with what happened, and gone with what became of it. */
export function toTellRepository(db: Db) {
  const add = db.prepare(
    `INSERT OR IGNORE INTO looks_to_tell (shop, event)
     SELECT @shop, @id WHERE EXISTS (SELECT 1 FROM occasions WHERE shop = @shop AND on_since IS NOT NULL AND deleted_at IS NULL)`,
  );
  const told = db.prepare('DELETE FROM looks_to_tell WHERE shop = ? AND event = ?');
  const looks = db
    .prepare<[string], string>(
      `SELECT events.event FROM looks_to_tell AS look CROSS JOIN events ON events.shop = look.shop AND events.id = look.event
       WHERE look.shop = ? ORDER BY events.at, events.rowid`,
    )
    .pluck();
  const forget = db.prepare('DELETE FROM looks_to_tell WHERE shop = ?');
  const sources = db.prepare<[], { id: string; generation: number }>(
    'SELECT id, generation FROM sources WHERE told_generation < generation AND deleted_at IS NULL',
  );
  const toldOf = db.prepare(
    'UPDATE sources SET told_generation = max(told_generation, ?) WHERE id = ?',
  );
  return {
    /** Somebody looked at a product, where occasions are on; inside the transaction that keeps the event. */
    look: ({ shop, id }: ShopEvent): void => void add.run({ shop, id }),
    /** Of an event that the engine was told, inside the transaction that keeps what became of it. */
    toldEvent: ({ shop, id }: ShopEvent): void => void told.run(shop, id),
    looks: (shop: string): ShopEvent[] =>
      looks.all(shop).map((event) => JSON.parse(event) as ShopEvent),
    forgetLooks: (shop: string): void => void forget.run(shop),
    /** Sources whose last import was not told, or not to its end. */
    sources: () => sources.all(),
    /** All that a source holds up to a generation was told. */
    toldSource: (id: string, generation: number): void => void toldOf.run(generation, id),
  };
}
export type ToTellRepository = ReturnType<typeof toTellRepository>;
