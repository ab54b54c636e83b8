import { dayWithoutYear, inYear, personDay } from './personDate';

test.each([
  ['--02-29', 2, 29],
  ['02-29', 2, 29],
  ['29.02.', 2, 29],
  ['29.2', 2, 29],
  ['29/02', 2, 29],
  ['11/25', 11, 25],
  ['3/4', 4, 3],
  ['29 February', 2, 29],
  ['29. Februar', 2, 29],
  ['1er', 0, 0],
  ['3 mars', 3, 3],
  ['14 juillet', 7, 14],
  ['30 juin', 6, 30],
  ['Feb 29', 2, 29],
  ['Dec. 1st', 12, 1],
  ['31.4.', 0, 0],
  ['13-32', 0, 0],
  ['Monday 3', 0, 0],
  ['later', 0, 0],
])('a day without a year: %s', (text, month, day) => {
  expect(dayWithoutYear(text)).toEqual(month === 0 ? null : { year: null, month, day });
});

test('a field names a day as text, as a date, or as imports store it', () => {
  const may = { year: 1988, month: 2, day: 29 };
  for (const value of ['1988-02-29', { date: '1988-02-29' }])
    expect(personDay(value, 'America/New_York')).toEqual(may);
  expect(personDay({ date: '1988-02-29T03:00:00Z' }, 'America/New_York')).toEqual({
    ...may,
    day: 28,
  });
  expect(personDay({ date: '29.02.' }, 'UTC')).toEqual({ ...may, year: null });
  for (const value of [undefined, null, 7, true, 'soon', {}, { date: 7 }, []])
    expect(personDay(value, 'UTC')).toBeNull();
});

test('the 29th of February is the 28th where there is none', () => {
  const day = { year: null, month: 2, day: 29 };
  expect(new Date(inYear(day, 2026)).toISOString().slice(0, 10)).toBe('2026-02-28');
  expect(new Date(inYear(day, 2028)).toISOString().slice(0, 10)).toBe('2028-02-29');
});
