import { rmSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { simpleParser } from 'mailparser';
import { chanceFrom, killable, occasionByHand, pause } from './killing';

// Kills the server at random moments of a send of 1,000 mails into the stand-in mailbox, again and again, and counts
// what came of each mail: `npx tsx bench/kills.ts [how many kills] [how many emails]`.
const KILLS = Number(process.argv[2] ?? 200);
const MAILS = Number(process.argv[3] ?? 1_000);
const server = killable(4651);
await server.start();
const occasion = await occasionByHand(server, 'on');
const db = new Database(join(server.data, 'carafe.db'));
const ids = db
  .prepare<[number], number>(
    `SELECT id FROM people WHERE shop = 'quillmoss-gb' ORDER BY id LIMIT ?`,
  )
  .pluck()
  .all(MAILS);
const chance = chanceFrom(11);
let batches = 0;
const write = () =>
  server.api('POST', `/occasions/${occasion}/hand`, { people: ids, name: `batch ${++batches}` });
await write();
const count = (state: string) =>
  db.prepare<[string], number>('SELECT COUNT(*) FROM outbox WHERE state = ?').pluck().get(state) ??
  0;
const left = () => count('waiting') + count('ready') + count('sending');
/** How often each mail came; the mailbox keeps the latest 5,000, so they are counted as they come. */
const seen = new Map<string, number>();
let read = 0;
async function collect(): Promise<void> {
  const boxes = db
    .prepare<[number], { rowid: number; source: Buffer }>(
      'SELECT rowid, source FROM mailbox WHERE rowid > ? ORDER BY rowid',
    )
    .all(read);
  for (const { rowid, source } of boxes) {
    const { messageId = '' } = await simpleParser(source.subarray(0, 4_000));
    seen.set(messageId, (seen.get(messageId) ?? 0) + 1);
    read = rowid;
  }
}
let kills = 0;
while (kills < KILLS) {
  if (left() === 0) await write();
  // A start looks at everybody before it sends: kills are to fall into filling and handing over.
  const before = count('sent') + count('ready');
  for (let i = 0; i < 100 && count('sent') + count('ready') === before && left() > 0; i++)
    await pause(100);
  await pause(chance() * 1_500);
  await server.kill();
  kills++;
  await collect();
  await server.start();
}
for (let i = 0; i < 600 && left() > 0; i++) await pause(100);
await collect();
const rows = db
  .prepare<[], { state: string; message_id: string }>('SELECT state, message_id FROM outbox')
  .all();
const twice = [...seen.values()].filter((n) => n > 1).length;
const missing = rows.filter(
  ({ state: of, message_id }) => of === 'sent' && !seen.has(message_id),
).length;
const doubts = rows.filter(({ state: of }) => of === 'in_doubt');
console.log(
  JSON.stringify({
    ...{ kills, mails: rows.length, sent: count('sent'), in_doubt: doubts.length, twice, missing },
    in_doubt_but_arrived: doubts.filter(({ message_id }) => seen.has(message_id)).length,
    states: Object.fromEntries(
      [...new Set(rows.map(({ state: of }) => of))].map((of) => [of, count(of)]),
    ),
    others: rows.length - count('sent') - doubts.length,
  }),
);
db.close();
await server.kill();
rmSync(server.data, { recursive: true, force: true });
if (twice > 0 || missing > 0) process.exitCode = 1;
