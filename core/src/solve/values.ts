import { readDate } from '../formula';
import { counted } from '../words';
import type { Literals } from './literals';

/** A value that a field may be tried with, and what it is called. */
export interface Value {
  words: string;
  value: unknown;
}

const DAY = 86_400_000;
/** Dates are tried so far back that the oldest recipient was not born. */
const YEARS_BACK = [1, 2, 10, 30, 40, 60];
const LETTERS = 'Alexandrina Bartholomea Clementina Dorothea of Nether Quill';
const MOST_LETTERS = LETTERS.length;

const iso = (milliseconds: number) => new Date(milliseconds).toISOString();
const onDay = (year: number, month: number, day: number) => Date.UTC(year, month - 1, day, 12);

/** Days that have the numbers asked for as their day, month, weekday or year, of some years. */
function calendarDays({ numbers, texts }: Literals, now: Date): number[] {
  const inTexts = texts.flatMap((text) => (text.match(/\d+/g) ?? []).map(Number));
  const asked = [...new Set([...numbers, ...inTexts])].filter((n) => Number.isInteger(n));
  const years = asked.filter((n) => n >= 1900 && n <= 2200);
  const [thisYear, thisMonth] = [now.getUTCFullYear(), now.getUTCMonth() + 1];
  const months = [...asked.filter((n) => n >= 1 && n <= 12), thisMonth];
  const days = [...asked.filter((n) => n >= 1 && n <= 31), now.getUTCDate(), 15];
  const some: number[] = [];
  // A leap year is among them: the 29th of February is a birthday, too.
  for (const year of [...years, thisYear - 1, 2020, 1984])
    for (const month of months)
      for (const day of days) {
        const at = onDay(year, month, day);
        if (new Date(at).getUTCDate() === day) some.push(at);
      }
  for (const year of years) some.push(onDay(year, 7, 1));
  for (let month = 1; month <= 12; month++) some.push(onDay(thisYear - 1, month, 15));
  for (let back = 0; back < 7; back++) some.push(now.getTime() - back * DAY);
  return some;
}

/** Days around those that stand in formulas, and of years ago. */
function writtenDays({ texts }: Literals, now: Date): number[] {
  const written = texts.flatMap((text) => readDate(text)?.getTime() ?? []);
  return [
    ...written.flatMap((at) => [at, at - DAY, at + DAY, at - 366 * DAY, at + 366 * DAY]),
    ...YEARS_BACK.map((years) => now.getTime() - Math.round(years * 365.25) * DAY),
  ];
}

/** Instants that a date may be tried with, in ISO 8601. */
export function datesFor(literals: Literals, now: Date): Value[] {
  const { numbers } = literals;
  const ago = [0, 1, ...numbers, ...numbers.map((n) => n + 1), 400]
    .filter((days) => Math.abs(days) < 40_000)
    .map((days) => ({
      words: days === 0 ? 'today' : `${counted(days, 'day')} ago`,
      value: iso(now.getTime() - days * DAY),
    }));
  const ahead = [1, 30].map((days) => ({
    words: `in ${counted(days, 'day')}`,
    value: iso(now.getTime() + days * DAY),
  }));
  const days = [
    ...writtenDays(literals, now),
    ...(literals.asksCalendar ? calendarDays(literals, now) : []),
  ];
  const named = [...new Set(days)].map((at) => ({ words: iso(at).slice(0, 10), value: iso(at) }));
  return [...ago, ...ahead, ...named];
}

/** Values that a field may be tried with: those of the formulas, and those on each side of them. */
export function valuesFor(literals: Literals, now: Date): Value[] {
  const { numbers, texts, asksLength } = literals;
  const some: Value[] = [{ words: 'nothing', value: undefined }];
  for (const text of texts) some.push({ words: `“${text}”`, value: text });
  for (const number of numbers)
    for (const value of [number, number + 1, number - 1])
      some.push({ words: String(value), value });
  if (asksLength)
    for (const count of numbers.flatMap((n) => [n, n + 1, n - 1]))
      if (Number.isInteger(count) && count > 0 && count <= MOST_LETTERS) {
        const value = LETTERS.slice(0, count).replace(/ $/, 's');
        some.push({ words: `“${value}”`, value });
      }
  some.push({ words: 'yes', value: true }, { words: 'no', value: false });
  some.push(
    { words: '“Alex”', value: 'Alex' },
    { words: '0', value: 0 },
    { words: '1000', value: 1_000 },
  );
  return [...some, ...datesFor(literals, now)];
}

/** Lists of texts that tags may be tried with: each one, all of them, and as many as are counted. */
export function listsFor({ texts, numbers }: Literals): Value[] {
  const ones = texts.map((text) => ({ words: `“${text}”`, value: [text] }));
  const fill = (count: number, first: readonly string[]) =>
    Array.from({ length: count }, (_, i) => first[i] ?? `tag ${i + 1}`);
  const counts = [...new Set(numbers.flatMap((n) => [n, n + 1, n - 1]))].filter(
    (n) => Number.isInteger(n) && n >= 1 && n <= 50,
  );
  return [
    ...[
      { words: 'nothing', value: undefined },
      { words: '“Alex”', value: ['Alex'] },
    ],
    ...ones,
    ...(texts.length > 1 ? [{ words: texts.join(', '), value: [...texts] }] : []),
    ...counts.flatMap((count) => [
      { words: counted(count, 'value'), value: fill(count, []) },
      ...texts.map((text) => ({
        words: `“${text}” and ${counted(count - 1, 'other')}`,
        value: fill(count, [text]),
      })),
    ]),
  ];
}
