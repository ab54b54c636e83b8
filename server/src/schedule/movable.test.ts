import { MovableClock } from './movable';
import { testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
});
afterAll(() => carafe.store.close());

const START = Date.parse('2026-11-24T09:00:00Z');

/** A clock of its own, with what was done to it and around it in order. */
function clock({ testOnly = true, idle = () => Promise.resolve() } = {}) {
  const done: string[] = [];
  let ahead = 0;
  const movable = new MovableClock({
    store: carafe.store,
    movedClock: carafe.tables.movedClock,
    now: () => new Date(START + ahead),
    setMoved: (moved) => {
      ahead = moved;
      done.push(`set ${moved / 60_000}`);
    },
    isTestOnly: () => testOnly,
    moveTo: (at) => {
      done.push(`answered ${new Date(at).toISOString()}`);
      return Promise.resolve();
    },
    idle: async () => {
      await idle();
      done.push('idle');
    },
    updates: { publish: ({ type }: { type: string }) => void done.push(type) } as never,
  });
  return { movable, done };
}

test('what happened before is answered before the time moves on, and what is due then after', async () => {
  let release = () => undefined as void;
  const held = new Promise<void>((end) => (release = end));
  const { movable, done } = clock({ idle: () => held });
  const moving = movable.move(90);
  await new Promise((soon) => setImmediate(soon));
  expect(done).toEqual([]);
  release();
  expect(await moving).toEqual({ now: '2026-11-24T10:30:00.000Z', moved: 90 });
  expect(done).toEqual(['idle', 'set 90', 'clock', 'answered 2026-11-24T10:30:00.000Z']);
});

test('it is moved on from where it stands, is kept so, and goes back to the day', async () => {
  const { movable } = clock();
  await movable.reset();
  await movable.move(60);
  await movable.move(30);
  expect(movable.read().moved).toBe(90);
  expect(carafe.tables.movedClock.moved()).toBe(90 * 60_000);
  expect(await movable.reset()).toEqual({ now: '2026-11-24T09:00:00.000Z', moved: 0 });
});

test('where mails go to people it stands still, and says why', async () => {
  const { movable, done } = clock({ testOnly: false });
  await expect(movable.move(60)).rejects.toThrow(/only be moved in test-only mode/);
  await expect(movable.reset()).rejects.toThrow(/only be moved in test-only mode/);
  expect(done).toEqual([]);
});
