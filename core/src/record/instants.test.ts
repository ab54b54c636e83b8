import { Day } from '../formula';
import { instantOf, isOver } from '.';

test('a date is an instant, whatever offset it was written with', () => {
  expect(instantOf('2026-11-24T10:00:00+02:00')).toBe(Date.UTC(2026, 10, 24, 8));
  expect(instantOf('2026-11-24')).toBe(Date.UTC(2026, 10, 24));
  expect([instantOf(undefined), instantOf('soon')]).toEqual([0, 0]);
});

const now = new Date('2026-11-24T23:30:00Z');
test.each([
  ['2026-11-24', 'UTC', false],
  ['2026-11-23', 'UTC', true],
  // Half past midnight in Paris: the 24th is over there, and not yet in New York.
  ['2026-11-24', 'Europe/Paris', true],
  ['2026-11-24', 'America/New_York', false],
  ['2026-11-24T23:30:00Z', 'UTC', true],
  ['2026-11-25T00:45:00+01:00', 'UTC', false],
  ['never', 'UTC', false],
])('whether %s is over by the clocks of %s', (date, zone, over) => {
  expect(isOver(date, now, zone)).toBe(over);
});

test('a day that was read already is a day still', () => {
  expect(isOver(new Day('2026-11-24'), now)).toBe(false);
  expect(isOver(undefined, now)).toBe(false);
});
