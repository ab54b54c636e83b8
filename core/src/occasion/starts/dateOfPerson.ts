import { z } from 'zod';
import { instantOfWall } from '../../formula';
import { standing } from '../../record';
import { ClockTime } from '../clockTime';
import { defineStart, type Moment } from '../define';
import { inYear, personDay, type PersonDay } from '../personDate';
import { fieldWords } from '../../shape';
import { counted } from '../../words';

const schema = z.strictObject({
  kind: z.literal('date_of_person'),
  /** A field of the person that holds a date; `last_order_at` is reckoned. */
  field: z
    .string()
    .trim()
    .regex(/^[\p{L}_][\p{L}\p{Nd}_]*$/u, 'Name a field of the person, as joined or birthday.'),
  /** Days after that date; before it where it is below nothing. */
  days: z.number().int().min(-365).max(3650),
  yearly: z.boolean(),
  time: ClockTime,
});
type Start = z.infer<typeof schema>;

const DAY = 86_400_000;

function dayOf({ person, shopper, zone }: Moment, field: string): PersonDay | null {
  const value =
    field === 'last_order_at'
      ? standing(shopper.orders).at(-1)?.placed_at
      : field === 'first_order_at'
        ? standing(shopper.orders)[0]?.placed_at
        : (person as Record<string, unknown>)[field];
  return personDay(value, zone);
}

/** The days on which it is time, as midnights of the wall: this year’s and the next, or the one. */
function daysOf({ days, yearly }: Start, day: PersonDay, now: number): number[] {
  if (!yearly && day.year !== null) return [inYear(day, day.year) + days * DAY];
  // The dates whose day, so long after or before them, is about now. A day without a year comes every year.
  const year = new Date(now - days * DAY).getUTCFullYear();
  return [year - 1, year, year + 1].map((one) => inYear(day, one) + days * DAY);
}

const minutes = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

export const dateOfPerson = defineStart({
  kind: 'date_of_person',
  name: 'A date of the person',
  description: 'A birthday, so long after they joined, so long after the last order.',
  schema,
  make: () => ({
    ...{
      kind: 'date_of_person' as const,
      field: 'last_order_at',
      days: 60,
      yearly: false,
      time: '09:00',
    },
  }),
  fields: [
    {
      ...{ control: 'text', path: 'field', before: 'The field', hint: 'birthday' },
      offers: { datesOf: 'person' },
    },
    { control: 'number', path: 'days', before: 'and', after: 'days', most: 3650 },
    {
      ...{ control: 'choice', path: 'yearly', before: '' },
      options: [
        { value: 'false', label: 'once' },
        { value: 'true', label: 'every year' },
      ],
    },
    { control: 'time', path: 'time', before: 'at' },
  ],
  say: ({ field, days, yearly, time }) => {
    const what = `their ${fieldWords(field)}`;
    const when =
      days === 0
        ? `On ${what}`
        : `${counted(Math.abs(days), 'day')} ${days < 0 ? 'before' : 'after'} ${what}`;
    return `${when}${yearly ? ', every year,' : ''} at ${time}`;
  },
  causes: (start, moment) => {
    const day = dayOf(moment, start.field);
    if (day === null) return [];
    return daysOf(start, day, moment.at).map((at) => ({
      cause: `date ${start.field} ${new Date(at).toISOString().slice(0, 10)}`,
      due: instantOfWall(at + minutes(start.time) * 60_000, moment.zone),
      about: {},
    }));
  },
  stands: (start, moment, _about) => {
    const day = dayOf(moment, start.field);
    if (day === null) return false;
    // Ordered anew, the date after the last order is another one.
    return daysOf(start, day, moment.at).some(
      (at) => instantOfWall(at + minutes(start.time) * 60_000, moment.zone) <= moment.at,
    );
  },
  gone: 'The date is another one now.',
});
