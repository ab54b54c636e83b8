import { rmSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { chanceFrom, killable, occasionByHand, pause } from './killing';

// Kills the server while emails are created, filled, switched off and while people are erased, and counts what is not as
// it should be: `npx tsx bench/killsElsewhere.ts [how many kills]`.
const KILLS = Number(process.argv[2] ?? 40);
const PEOPLE = 500;
const SHOP = 'quillmoss-gb';
const server = killable(4652);
const chance = chanceFrom(7);
await server.start();
const db = new Database(join(server.data, 'carafe.db'));
const some = db
  .prepare<[number], { id: number; email: string }>(
    `SELECT id, email FROM people WHERE shop = '${SHOP}' ORDER BY id DESC LIMIT ?`,
  )
  .all(PEOPLE + KILLS);
const people = some.slice(0, PEOPLE);
const toErase = some.slice(PEOPLE);
const rows = (occasion: string) =>
  db
    .prepare<[string], { email: string; state: string; sent_at: number | null }>(
      'SELECT email, state, sent_at FROM outbox WHERE occasion = ?',
    )
    .all(occasion);
const faults: string[] = [];
const expect = (holds: boolean, what: string) => void (holds || faults.push(what));
/** Until nothing of an occasion is on its way any more. */
async function settled(occasion: string): Promise<void> {
  const busy = () =>
    rows(occasion).some(({ state }) => ['waiting', 'ready', 'sending'].includes(state));
  for (let i = 0; i < 900 && busy(); i++) await pause(100);
}
/** Begins something, kills the server at a random moment within `most` milliseconds, and starts it again. */
async function killDuring(work: () => Promise<unknown>, most: number): Promise<boolean> {
  let isDone = false;
  const done = work().then(
    () => (isDone = true),
    () => undefined,
  );
  await pause(chance() * most);
  const wasDone = isDone;
  await server.kill();
  await done;
  await server.start();
  return wasDone;
}
const hand = (occasion: string, name: string) =>
  server.api('POST', `/occasions/${occasion}/hand`, { people: people.map(({ id }) => id), name });

for (let kill = 0; kill < KILLS; kill++) {
  const kind = kill % 4;
  const occasion = await occasionByHand(server, kind === 0 ? 'held' : 'on');
  if (kind === 0) {
    // Creating: each has none or one; told once more, each has one.
    await killDuring(() => hand(occasion, 'x'), 1_200);
    await hand(occasion, 'x');
    const made = rows(occasion).map(({ email }) => email);
    expect(made.length === PEOPLE, `creating: ${made.length} emails for ${PEOPLE} people`);
    expect(new Set(made).size === made.length, 'creating: somebody has two');
  } else if (kind === 1) {
    // Filling: all are sent in the end, or told in doubt.
    await hand(occasion, 'x');
    await killDuring(() => pause(3_000), 2_500);
    await settled(occasion);
    const other = rows(occasion).filter(({ state }) => !['sent', 'in_doubt'].includes(state));
    expect(other.length === 0, `filling: ${other.length} are ${other[0]?.state ?? ''}`);
  } else if (kind === 2) {
    // Switching off: once it was answered, or once it is off after a start, nothing more is sent.
    await hand(occasion, 'x');
    const off = () => server.api('POST', `/occasions/${occasion}/off`, { waiting: 'stop' });
    const wasDone = await killDuring(off, 600);
    const isOff = db
      .prepare<[string], number>('SELECT on_since IS NULL FROM occasions WHERE id = ?')
      .pluck()
      .get(occasion);
    expect(!wasDone || isOff === 1, 'switching off: it was answered and is on');
    if (isOff === 1) {
      const before = rows(occasion).filter(({ state }) => state === 'sent').length;
      await pause(1_500);
      const after = rows(occasion).filter(({ state }) => state === 'sent').length;
      expect(before === after, `switching off: ${after - before} were sent afterwards`);
    }
  } else {
    // Erasing: all of a person is there, or nothing.
    const email = toErase[kill]?.email ?? '';
    await killDuring(() => server.api('POST', `/shops/${SHOP}/people/erase`, { email }), 60);
    const left = (table: string, column = 'email') =>
      db
        .prepare<[string], number>(
          `SELECT COUNT(*) FROM ${table} WHERE shop = '${SHOP}' AND ${column} = ?`,
        )
        .pluck()
        .get(email) ?? 0;
    const isThere = left('people') > 0;
    const events = left('events', 'owner');
    expect(isThere || events === 0, `erasing: ${events} events of ${email} are left`);
    if (isThere) await server.api('POST', `/shops/${SHOP}/people/erase`, { email });
    expect(left('people') + left('events', 'owner') === 0, `erasing: ${email} is there still`);
  }
  await server.api('POST', `/occasions/${occasion}/off`, { waiting: 'stop' });
}
const check = db.pragma('integrity_check', { simple: true });
expect(check === 'ok', `the database: ${String(check)}`);
console.log(JSON.stringify({ kills: KILLS, faults }));
db.close();
await server.kill();
rmSync(server.data, { recursive: true, force: true });
if (faults.length > 0) process.exitCode = 1;
