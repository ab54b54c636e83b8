import { isPaused, pauseAfter, retryAfter, type Pause } from './pauses';

const MINUTE = 60_000;

test('an email is tried again after pauses that grow fourfold, up to eight hours', () => {
  const minutes = [1, 2, 3, 4, 5, 6, 7].map((tries) => retryAfter(tries) / MINUTE);
  expect(minutes).toEqual([1, 4, 16, 64, 256, 480, 480]);
});

test('a mail server that lets nobody in is asked again after pauses that double, up to a quarter of an hour', () => {
  const pauses: number[] = [];
  let last: Pause | null = null;
  for (let i = 0; i < 7; i++) {
    last = pauseAfter(last, 'No.', 1_000);
    expect(last).toMatchObject({ why: 'No.', until: 1_000 + last.pause });
    pauses.push(last.pause / MINUTE);
  }
  expect(pauses).toEqual([0.5, 1, 2, 4, 8, 15, 15]);
});

test('a pause ends at its instant, and a clock that was set back does not prolong it', () => {
  const pause = { why: 'No.', until: 100 * MINUTE, pause: 15 * MINUTE };
  expect(isPaused(null, 0)).toBe(false);
  expect(isPaused(pause, 100 * MINUTE)).toBe(false);
  expect(isPaused(pause, 100 * MINUTE - 1)).toBe(true);
  expect(isPaused(pause, 85 * MINUTE)).toBe(true);
  expect(isPaused(pause, 85 * MINUTE - 1)).toBe(false);
});
