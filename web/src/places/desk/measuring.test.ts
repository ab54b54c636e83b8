/** @jest-environment jsdom */
import { Measuring } from './measuring';

// A mail is measured after it was seen; while others follow fast, after the last of them.

let measured = 0;
let measuring: Measuring;
const FRAME = 17;
beforeEach(() => {
  jest.useFakeTimers();
  measured = 0;
  measuring = new Measuring(() => measured++);
});
afterEach(() => jest.useRealTimers());

test('a mail is measured in the second frame after it was painted, once', () => {
  measuring.soon();
  expect(measuring.isDue).toBe(true);
  measuring.soon();
  jest.advanceTimersByTime(FRAME);
  expect(measured).toBe(0);
  jest.advanceTimersByTime(2 * FRAME);
  expect(measured).toBe(1);
  expect(measuring.isDue).toBe(false);
  jest.advanceTimersByTime(1_000);
  expect(measured).toBe(1);
});

test('whoever asks now is answered now', () => {
  measuring.soon();
  measuring.now();
  expect(measured).toBe(1);
  jest.advanceTimersByTime(1_000);
  expect(measured).toBe(1);
});

test('with another mail on its way it is measured after that', () => {
  measuring.soon();
  measuring.holdBack();
  jest.advanceTimersByTime(3 * FRAME);
  expect(measured).toBe(0);
  measuring.soon();
  jest.advanceTimersByTime(3 * FRAME);
  expect(measured).toBe(1);
});

test('where the other never comes, as at the end of the list, it is measured all the same', () => {
  measuring.soon();
  measuring.holdBack();
  jest.advanceTimersByTime(200);
  expect(measured).toBe(1);
});

test('however fast mails follow one another, none is held back for long', () => {
  for (let passed = 0; passed < 600; passed += 20) {
    measuring.soon();
    jest.advanceTimersByTime(10);
    measuring.holdBack();
    jest.advanceTimersByTime(10);
  }
  expect(measured).toBeGreaterThanOrEqual(1);
  jest.advanceTimersByTime(3 * FRAME);
  const before = measured;
  // Nothing is due: nothing is held back.
  measuring.holdBack();
  jest.advanceTimersByTime(1_000);
  expect(measured).toBe(before);
});

test('what is stopped is not measured', () => {
  measuring.soon();
  measuring.stop();
  jest.advanceTimersByTime(1_000);
  expect(measured).toBe(0);
});
