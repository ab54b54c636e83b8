import type { Context } from './context';
import { DAY_MS, Day, dayAt } from './days';
import { settle } from './number';
import { toValue, type Value } from './values';

/** A date so many days later; a day stays one as long as the days are whole. */
export function movedBy(date: Date, days: number, { locale }: Context): Value {
  return toValue(
    date instanceof Day && Number.isInteger(days)
      ? dayAt(date.getTime() + days * DAY_MS)
      : new Date(locale.instant(date) + days * DAY_MS),
  );
}

/** Days from one date to another, with their fraction; between two days, whole ones. */
export function daysFrom(from: Date, to: Date, { locale }: Context): number | undefined {
  const areDays = from instanceof Day && to instanceof Day;
  const at = (date: Date) => (areDays ? date.getTime() : locale.instant(date));
  return settle((at(to) - at(from)) / DAY_MS);
}
