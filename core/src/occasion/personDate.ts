import { isRecord, toDate, wallIn } from '../formula';

const DAY = 86_400_000;

/** A day of the year: months count from 1; a year where it is known. */
export interface PersonDay {
  year: number | null;
  month: number;
  day: number;
}

/** Months as they are written in English, German and French, by how they begin. */
const MONTHS: readonly RegExp[] = [
  /^jan|^jän/,
  /^feb|^f[eé]v/,
  /^mar|^mär|^mrz/,
  /^apr|^avr/,
  /^ma[iy]/,
  /^jun|^juin/,
  /^jul|^juil/,
  /^aug|^ao[uû]/,
  /^sep/,
  /^o[ck]t/,
  /^nov/,
  /^de[cz]|^déc/,
];
const monthNamed = (word: string): number =>
  MONTHS.findIndex((begin) => begin.test(word.toLowerCase())) + 1;

/** The days of each month, with the 29th of February. */
const LENGTHS = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

function dayOfYear(month: number, day: number): PersonDay | null {
  const isDay = month >= 1 && month <= 12 && day >= 1 && day <= (LENGTHS[month - 1] ?? 0);
  return isDay ? { year: null, month, day } : null;
}

/**
 * A day without a year, as people enter birthdays: --02-29 (ISO 8601-1:2000, vCard), 02-29, 29.02., 29/02, “29 February”,
 * “Feb 29”. Of two numbers with a slash or a point the day comes first, unless it can only be the other way round.
 */
export function dayWithoutYear(text: string): PersonDay | null {
  const clean = text.trim();
  const iso = /^(?:--)?(\d{2})-(\d{2})$/.exec(clean);
  if (iso) return dayOfYear(Number(iso[1]), Number(iso[2]));
  const numbers = /^(\d{1,2})\s?[./]\s?(\d{1,2})\.?$/.exec(clean);
  if (numbers) {
    const [first, second] = [Number(numbers[1]), Number(numbers[2])];
    return dayOfYear(second, first) ?? dayOfYear(first, second);
  }
  const dayFirst = /^(\d{1,2})(?:\.|st|nd|rd|th)?\s+(\p{L}{3,})\.?$/iu.exec(clean);
  if (dayFirst) return dayOfYear(monthNamed(dayFirst[2] ?? ''), Number(dayFirst[1]));
  const monthFirst = /^(\p{L}{3,})\.?\s+(\d{1,2})(?:st|nd|rd|th)?$/iu.exec(clean);
  return monthFirst ? dayOfYear(monthNamed(monthFirst[1] ?? ''), Number(monthFirst[2])) : null;
}

/** The day that a field of a person names, as clocks of the person show it; null where it names none. */
export function personDay(value: unknown, zone: string): PersonDay | null {
  // An imported date stands in stored records as {"date": ISO 8601}.
  const told = isRecord(value) ? (value as Record<string, unknown>)['date'] : value;
  const date = told instanceof Date || typeof told === 'string' ? toDate(told) : undefined;
  if (!date) return typeof told === 'string' ? dayWithoutYear(told) : null;
  // A bare date is the same day everywhere.
  const wall = new Date(Math.floor(wallIn(date, zone) / DAY) * DAY);
  return { year: wall.getUTCFullYear(), month: wall.getUTCMonth() + 1, day: wall.getUTCDate() };
}

/** The same day of a year, as a midnight of the wall in milliseconds; the 29th of February is the 28th where there is none. */
export function inYear({ month, day }: PersonDay, year: number): number {
  const last = new Date(Date.UTC(year, month, 0)).getUTCDate();
  return Date.UTC(year, month - 1, Math.min(day, last));
}
