import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import { simpleParser } from 'mailparser';

// Kills the server at random moments of a send of 1,000 mails into the stand-in mailbox, again and again, and counts
// what came of each mail: `npm run bench -- kills [how many kills] [how many mails]`.
const root = resolve(import.meta.dirname, '..');
const KILLS = Number(process.argv[2] ?? 200);
const MAILS = Number(process.argv[3] ?? 1_000);
const PORT = 4651;
const NOW = '2026-11-24T09:00:00Z';
const origin = `http://127.0.0.1:${PORT}`;
const data = mkdtempSync(join(tmpdir(), 'carafe-kills-'));

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

async function start(): Promise<ChildProcess> {
  const server = spawn(process.execPath, ['server/dist/main.js'], {
    cwd: root,
    env: { ...process.env, PORT: String(PORT), CARAFE_DATA: data, CARAFE_NOW: NOW },
  });
  await new Promise<void>((done, failed) => {
    server.stdout.on('data', (text: Buffer) => String(text).includes('Carafe is at') && done());
    server.on('exit', (code) => failed(new Error(`The server stopped with ${code}.`)));
  });
  return server;
}
async function api<T>(method: string, path: string, body?: unknown): Promise<T> {
  const answer = await fetch(`${origin}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  return (answer.status === 204 ? null : await answer.json()) as T;
}
const ended = (server: ChildProcess) =>
  new Promise<void>((done) => {
    server.once('exit', () => done());
    server.kill('SIGKILL');
  });
/** Chance that comes out the same each time. */
let state = 11;
const chance = () => {
  state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
  return state / 4_294_967_296;
};

let server = await start();
const { templates } = await api<{ templates: { id: string; name: string }[] }>('GET', '/templates');
const template = templates.find(({ name }) => name === 'Welcome: your first parcel')?.id ?? '';
const occasion = await api<{ id: string; version: number }>(
  'POST',
  '/shops/quillmoss-gb/occasions',
  {
    ...{ name: 'Kills', start: { kind: 'by_hand' }, whom: { guests: true }, priority: 5 },
    steps: [{ id: 'a', kind: 'send', template, mail: 'service', mode: 'on', to: 'person' }],
  },
);
await api('POST', `/occasions/${occasion.id}/publish`, { version: occasion.version });
const { recipients } = await api<{ recipients: { id: number }[] }>(
  'GET',
  '/shops/quillmoss-gb/recipients?having=all&limit=200',
);
const db = new Database(join(data, 'carafe.db'));
const ids = db
  .prepare<[number], number>(
    `SELECT id FROM people WHERE shop = 'quillmoss-gb' ORDER BY id LIMIT ?`,
  )
  .pluck()
  .all(MAILS);
if (recipients.length === 0) throw new Error('There is nobody to write to.');
// So many people at once are meant here.
await api('PUT', '/shops/quillmoss-gb/mail-rules', {
  ...{ quiet_minutes: 60, give_up_days: 30, most_a_day: 0, most_a_week: 0, one_cause: 'all' },
  most_an_hour: 10_000_000,
});
let batches = 0;
const write = () =>
  api('POST', `/occasions/${occasion.id}/hand`, { people: ids, name: `batch ${++batches}` });
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
  // Filling 500 takes seconds, handing over 200 a fraction of one: kills fall into both.
  await pause(250 + chance() * 4_000);
  await ended(server);
  kills++;
  await collect();
  server = await start();
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
await ended(server);
rmSync(data, { recursive: true, force: true });
if (twice > 0 || missing > 0) process.exitCode = 1;
