import { LiveUpdates } from '../live/liveUpdates';
import { Runner } from './runner';

/** A runner over a shop in which something is on; `done` ends what is being looked at. */
function running() {
  let done: () => void = () => {};
  let fail: (error: Error) => void = () => undefined;
  const kicks: string[] = [];
  const errors: unknown[] = [];
  const given = {
    occasions: { on: () => [{ id: 'o', on_since: '2026-11-01' }] },
    shops: { list: () => [{ id: 's' }] },
    rules: { task: () => ({}) },
    jobs: {
      run: () =>
        new Promise<object>((resolve, reject) => {
          done = () => {
            resolve({ people: 1, mails: 0, entered: 0 });
          };
          fail = reject;
        }),
    },
    sender: {
      kick: () => {
        kicks.push('kick');
        return Promise.resolve();
      },
    },
    ...{ updates: new LiveUpdates('start'), now: () => new Date(), newId: () => 'n' },
    log: { error: (error: unknown) => errors.push(error) },
  };
  const runner = new Runner(given as never);
  return { runner, kicks, errors, done: () => done(), fail: (error: Error) => fail(error) };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('while very many are looked at, what was made of the first is filled and sent', async () => {
  const { runner, kicks, done } = running();
  const looked = runner.everyone('s', null);
  await jest.advanceTimersByTimeAsync(1_000);
  expect(kicks).toEqual([]);
  await jest.advanceTimersByTimeAsync(6_000);
  expect(kicks).toHaveLength(3);
  done();
  await looked;
  await jest.advanceTimersByTimeAsync(60_000);
  expect(kicks).toHaveLength(3);
});

test('what fails is told, holds up nothing, and is asked about no more', async () => {
  const { runner, kicks, errors, fail, done } = running();
  const first = runner.everyone('s', null);
  await jest.advanceTimersByTimeAsync(2_500);
  fail(new Error('The disk is full.'));
  expect(await first).toBeNull();
  expect(errors).toHaveLength(1);
  const second = runner.everyone('s', null);
  await jest.advanceTimersByTimeAsync(100);
  done();
  expect(await second).toMatchObject({ people: 1 });
  await jest.advanceTimersByTimeAsync(60_000);
  expect(kicks).toHaveLength(1);
});
