import { readDate } from '@carafe/core/formula';

const figures = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 6 });

const moments = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
const MOMENT = /^\d{4}-\d\d-\d\d[T ]\d\d:\d\d/;

/** {"date": …} as it is stored, or null. */
function markedDate(value: unknown): string | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return null;
  const { date } = value as { date?: unknown };
  return typeof date === 'string' ? date : null;
}

/** A stored value in words. */
export function inWords(value: unknown): string {
  if (value === undefined || value === null || value === '') return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return figures.format(value);
  if (Array.isArray(value))
    return value
      .map((member: unknown) =>
        typeof member === 'object' && member !== null ? nameOf(member) : inWords(member),
      )
      .join(', ');
  const date = typeof value === 'string' ? value : markedDate(value);
  if (date !== null) {
    // As mails read it: without an offset it is UTC.
    const moment = MOMENT.test(date) ? readDate(date) : undefined;
    return moment ? moments.format(moment) : date;
  }
  return typeof value === 'object' ? nameOf(value) : String(value);
}

/** What a record inside is called: by its name and value, else its fields. */
function nameOf(record: object): string {
  const { name, value, title, quantity } = record as Record<string, unknown>;
  const said = name ?? title;
  if (typeof said === 'string')
    return value === undefined
      ? `${said}${typeof quantity === 'number' && quantity !== 1 ? ` × ${quantity}` : ''}`
      : `${said}: ${inWords(value) || 'blank'}`;
  return Object.entries(record)
    .slice(0, 3)
    .map(([key, inside]) => `${key} ${inWords(inside)}`)
    .join(', ');
}
