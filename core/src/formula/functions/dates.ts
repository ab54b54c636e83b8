import { charge, miss } from '../context';
import { DATE_STYLES, type Locale } from '../locale';
import { toDate, toNumber, toValue, type Value } from '../values';
import { argument, type FormulaFunction } from './define';

const DAY = 86_400_000;
/** What finding the day of an instant in a zone costs. */
const CALENDAR_STEPS = 20;

const parts = new Map<string, Intl.DateTimeFormat>();

/** The calendar day of an instant in the recipient's zone, as a UTC midnight. */
function calendarDay(date: Date, locale: Locale): Date {
  let format = parts.get(locale.timezone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-CA-u-ca-gregory-nu-latn', {
      timeZone: locale.timezone,
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
    });
    parts.set(locale.timezone, format);
  }
  const found = Object.fromEntries(
    format.formatToParts(date).map((p) => [p.type, Number(p.value)]),
  );
  return new Date(Date.UTC(found['year'] ?? 0, (found['month'] ?? 1) - 1, found['day'] ?? 1));
}

const styles = new Set(DATE_STYLES);
const isStyle = (text: string) => styles.has(text);

function ofDate(name: string, description: string, apply: (day: Date) => number): FormulaFunction {
  return {
    name,
    group: 'dates',
    usage: `${name}(date)`,
    description,
    least: 1,
    most: 1,
    gives: 'number',
    make(args, call) {
      const of = argument(args, 0);
      return (c) => {
        const date = toDate(of(c));
        if (!date) return miss(c, call, `There is no date for “${name}”.`);
        charge(c, CALENDAR_STEPS);
        return apply(calendarDay(date, c.locale));
      };
    },
  };
}

export const DATE_FUNCTIONS: FormulaFunction[] = [
  {
    name: 'date',
    group: 'dates',
    usage: 'date(date, style?)',
    description:
      'A date as the recipient writes it: short, medium, long, weekday, time, or a pattern.',
    least: 1,
    most: 2,
    gives: 'text',
    make(args, call) {
      const of = argument(args, 0);
      const style = argument(args, 1);
      const given = args.length > 1;
      return (c) => {
        const date = toDate(of(c));
        const asked = given ? style(c) : 'medium';
        if (!date) return miss(c, call, 'There is no date here.');
        if (typeof asked !== 'string') return miss(c, call, 'The style of a date is a text.');
        charge(c, isStyle(asked) ? 5 : 20 * Math.min(asked.length, 200));
        return c.locale.date(date, asked) ?? miss(c, call, `“${asked}” is no style for a date.`);
      };
    },
  },
  {
    name: 'days_between',
    group: 'dates',
    usage: 'days_between(from, to)',
    description: 'Whole days from one to the other.',
    least: 2,
    most: 2,
    gives: 'number',
    make(args, call) {
      const [from, to] = [argument(args, 0), argument(args, 1)];
      return (c) => {
        const a = toDate(from(c));
        const b = toDate(to(c));
        if (!a || !b) return miss(c, call, '“days_between” needs two dates.');
        return Math.trunc((b.getTime() - a.getTime()) / DAY) + 0;
      };
    },
  },
  {
    name: 'add_days',
    group: 'dates',
    usage: 'add_days(date, days)',
    description: 'So many days later.',
    least: 2,
    most: 2,
    gives: 'date',
    make(args, call) {
      const [of, by] = [argument(args, 0), argument(args, 1)];
      return (c) => {
        const date = toDate(of(c));
        const days = toNumber(by(c));
        const moved: Value =
          date && days !== undefined ? toValue(new Date(date.getTime() + days * DAY)) : undefined;
        return moved ?? miss(c, call, '“add_days” needs a date and a number.');
      };
    },
  },
  ofDate('year', 'The year of a date.', (day) => day.getUTCFullYear()),
  ofDate('month', 'The month of a date, 1 to 12.', (day) => day.getUTCMonth() + 1),
  ofDate('day', 'The day of the month.', (day) => day.getUTCDate()),
  ofDate('weekday_number', 'The day of the week, Monday 1.', (day) => day.getUTCDay() || 7),
];
