import type { OutboxState } from '@carafe/contract';
import type { Db } from '../database/open';
import { mailAt, messageKept, trailKept, unpackedMails } from './kept';

/** Of a mail that is in a pack, what it had for itself before packs were. */
const IN_PACK = Buffer.alloc(0);
/** Mails are mostly asked for in the order in which they were packed, by a few at a time. */
const PACKS_OPEN = 4;

interface SourceRow {
  source: Buffer;
  trail: Buffer;
  links: string;
  pack: number | null;
  place: number | null;
}

/** A mail whose bytes are kept, and where it stands among those that are. */
export interface KeptRow {
  id: string;
  state: OutboxState;
  made_at: string;
  place: number;
}
/** A mail of a pack, with its place in it. */
interface Placed {
  mail: { id: string; links: string[]; shown: string[] };
  place: number;
}

/** After every instant, as text. */
const EVER = '9999';

/** The bytes of mails: the outbox_sources and outbox_packs tables. */
export function keptMails(db: Db) {
  const putSource = db.prepare(
    `INSERT INTO outbox_sources (id, source, trail, links, shown, pack, place) VALUES (?, ?, ?, ?, ?, ?, ?)
     ON CONFLICT (id) DO UPDATE SET source = excluded.source, trail = excluded.trail, links = excluded.links,
       shown = excluded.shown, pack = excluded.pack, place = excluded.place`,
  );
  const putPack = db.prepare('INSERT INTO outbox_packs (bytes) VALUES (?)');
  const packBytes = db
    .prepare<[number], Buffer>('SELECT bytes FROM outbox_packs WHERE id = ?')
    .pluck();
  const source = db.prepare<[string], SourceRow>(
    'SELECT source, trail, links, pack, place FROM outbox_sources WHERE id = ?',
  );
  const links = db
    .prepare<[string], string>('SELECT links FROM outbox_sources WHERE id = ?')
    .pluck();
  const shownTo = db
    .prepare<[string, string, string, number], string>(
      `SELECT shown FROM outbox_sources JOIN outbox ON outbox.id = outbox_sources.id
       WHERE shop = ? AND email = ? AND made_at <= ? AND recipient = 'person' AND state IN ('ready', 'sending', 'sent', 'in_doubt')
       ORDER BY made_at DESC, outbox.rowid DESC LIMIT ?`,
    )
    .pluck();
  const keptAfter = db.prepare<[number, number], KeptRow>(
    `SELECT outbox_sources.rowid AS place, outbox.id, state, made_at
     FROM outbox_sources CROSS JOIN outbox ON outbox.id = outbox_sources.id
     WHERE outbox_sources.rowid > ? ORDER BY outbox_sources.rowid LIMIT ?`,
  );
  const forgetSources = db.prepare(
    'DELETE FROM outbox_sources WHERE id IN (SELECT value FROM json_each(?))',
  );
  const open = new Map<number, Buffer>();
  /** What a pack holds, of the last few that were asked for. */
  const opened = (pack: number): Buffer => {
    const mails = open.get(pack) ?? unpackedMails(packBytes.get(pack) ?? Buffer.alloc(0));
    open.delete(pack);
    open.set(pack, mails);
    const [oldest] = open.keys();
    if (open.size > PACKS_OPEN && oldest !== undefined) open.delete(oldest);
    return mails;
  };
  return {
    /** Keeps some mails of a pack that were just filled; inside a transaction. */
    keep(bytes: Buffer, mails: readonly Placed[]): void {
      const pack = putPack.run(bytes).lastInsertRowid;
      for (const { mail, place } of mails) {
        const [links, shown] = [JSON.stringify(mail.links), JSON.stringify(mail.shown)];
        putSource.run(mail.id, IN_PACK, IN_PACK, links, shown, pack, place);
      }
    },
    source(id: string): { source: Buffer; trail: unknown; links: string[] } | null {
      const row = source.get(id);
      if (!row) return null;
      const links = JSON.parse(row.links) as string[];
      if (row.pack !== null) return { ...mailAt(opened(row.pack), row.place ?? 0), links };
      return { source: messageKept(row.source), trail: trailKept(row.trail), links };
    },
    /** Where the links of a mail lead, in their order; null where it is not kept. */
    links(id: string): string[] | null {
      const kept = links.get(id);
      return kept === undefined ? null : (JSON.parse(kept) as string[]);
    },
    /** SKUs that stood in somebody’s last mails, made until an instant (ISO 8601), the latest mail first. */
    shownTo: (shop: string, email: string, mails: number, until = EVER): string[][] =>
      shownTo.all(shop, email, until, mails).map((text) => JSON.parse(text) as string[]),
    /** Of which mails the bytes are kept, in the order in which they were filled first, from after a place on. */
    keptAfter: (place: number, most: number): KeptRow[] => keptAfter.all(place, most),
    /** Forgets the bytes of mails; the rows stay. */
    forgetSources: (ids: readonly string[]): void => void forgetSources.run(JSON.stringify(ids)),
  };
}
