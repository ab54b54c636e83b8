import { charge, miss } from '../context';
import { movedBy } from '../dateMath';
import { Day, DAY_MS } from '../days';
import { DATE_STYLES } from '../locale';
import { toDate, toNumber } from '../values';
import { argument, type FormulaFunction } from './define';

/** What finding the day of an instant in a zone costs. */
const CALENDAR_STEPS = 20;

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
        return apply(c.locale.day(date));
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
    description:
      'Days from one to the other by the recipient’s calendar; between two times, whole days by their clocks.',
    least: 2,
    most: 2,
    takes: ['date', 'date'],
    gives: 'number',
    make(args, call) {
      const [from, to] = [argument(args, 0), argument(args, 1)];
      return (c) => {
        const a = toDate(from(c));
        const b = toDate(to(c));
        if (!a || !b) return miss(c, call, '“days_between” needs two dates.');
        charge(c, 2 * CALENDAR_STEPS);
        // Beside a day without a time, days of the calendar count: an order of yesterday evening is one day old.
        if (a instanceof Day || b instanceof Day)
          return (c.locale.day(b).getTime() - c.locale.day(a).getTime()) / DAY_MS + 0;
        // By the clocks on the wall, so that a day of 23 or 25 hours is one day.
        return Math.trunc((c.locale.wall(b) - c.locale.wall(a)) / DAY_MS) + 0;
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
    takes: ['date', 'number'],
    gives: 'date',
    make(args, call) {
      const [of, by] = [argument(args, 0), argument(args, 1)];
      return (c) => {
        const date = toDate(of(c));
        const days = toNumber(by(c));
        const moved = date && days !== undefined ? movedBy(date, days, c) : undefined;
        return moved ?? miss(c, call, '“add_days” needs a date and a number.');
      };
    },
  },
  ofDate('year', 'The year of a date.', (day) => day.getUTCFullYear()),
  ofDate('month', 'The month of a date, 1 to 12.', (day) => day.getUTCMonth() + 1),
  ofDate('day', 'The day of the month.', (day) => day.getUTCDate()),
  ofDate('weekday_number', 'The day of the week, Monday 1.', (day) => day.getUTCDay() || 7),
];
