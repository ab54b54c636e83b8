import { readDate } from '../formula';

/** How a column of dates is written; whatever the order, ISO 8601 is read as well. */
export type DateOrder = 'iso' | 'dmy' | 'mdy' | 'mail' | 'unix';

/** Orders of what is written for people, the surest first. */
export const WRITTEN = ['iso', 'dmy', 'mdy', 'mail'] as const;

const TIME = String.raw`(?:(?:[ T]|,\s?)\s*(\d{1,2})[:.](\d{2})(?:[:.](\d{2})(?:[.,]\d{1,9})?)?(?:\s*([ap])\.?m\.?)?(?:\s*(?:(GMT|UTC?|Z|[ECMP][SD]T)|([+-])(\d{2}):?(\d{2})))?)?$`;
const YEAR_FIRST = new RegExp(String.raw`^(\d{4})([./\-])(\d{1,2})\2(\d{1,2})${TIME}`, 'i');
/** Numbers of articles begin like that seldom. */
const RUN = new RegExp(String.raw`^((?:19|20)\d{2})()(\d{2})(\d{2})${TIME}`, 'i');
const YEAR_LAST = new RegExp(
  String.raw`^(?:(\d{1,2})[./\- ](\d{1,2})[./\- ](\d{4})|(\d{1,2})/(\d{1,2})/(\d{2})|(\d{1,2})\.(\d{1,2})\.(\d{2}))${TIME}`,
  'i',
);
const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');
const MONTH =
  '(jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)\\.?';
const WEEKDAY = String.raw`(?:[a-z]{3,9},?\s+)?`;
const NTH = '(?:st|nd|rd|th)?';
/** As mails write it (RFC 5322, 3.3, its older forms in 4.3 too), and as sheets do. */
const MONTH_SECOND = new RegExp(
  String.raw`^${WEEKDAY}(\d{1,2})${NTH}[\s\-]+${MONTH},?[\s\-]+(\d{4}|\d{2})${TIME}`,
  'i',
);
const MONTH_FIRST = new RegExp(
  String.raw`^${WEEKDAY}${MONTH}\s+(\d{1,2})${NTH},?\s+(\d{4})${TIME}`,
  'i',
);
/** Hours west of Greenwich of the zones that RFC 822 names; summer time is one less. */
const WEST: Record<string, number> = { E: 5, C: 6, M: 7, P: 8 };

/** The zone that RFC 822 names as what ISO 8601 writes: `EST` is `-05:00`. */
function namedZone(name: string): string {
  const west = WEST[name.length === 3 ? name.charAt(0) : ''];
  if (west === undefined) return 'Z';
  return `-0${name.charAt(1) === 'D' ? west - 1 : west}:00`;
}

const two = (n: number | string) => String(n).padStart(2, '0');
type Part = string | undefined;

/** The time of what TIME found, as ISO 8601 writes it; null where it is none. A time without a zone is UTC's. */
function timeOf([hour, minute, second = '00', half, name, sign, zh, zm]: readonly Part[]) {
  if (hour === undefined) return '';
  const [h, isAfternoon] = [Number(hour), half?.toLowerCase() === 'p'];
  if (half !== undefined && (h < 1 || h > 12)) return null;
  const hours = half === undefined ? h : (h % 12) + (isAfternoon ? 12 : 0);
  const zone = sign === undefined ? namedZone((name ?? 'Z').toUpperCase()) : `${sign}${zh}:${zm}`;
  return `T${two(hours)}:${minute}:${second}${zone}`;
}

/** Puts a date together as ISO 8601; undefined where there is no such day. */
function iso(year: Part, month: number, day: Part, time: string | null): string | undefined {
  const short = Number(year) + (Number(year) < 50 ? 2000 : 1900);
  const whole = year?.length === 2 ? short : Number(year);
  const text = `${String(whole).padStart(4, '0')}-${two(month)}-${two(Number(day))}${time}`;
  return time !== null && readDate(text) ? text : undefined;
}

function inWords(text: string): string | undefined {
  const first = MONTH_FIRST.exec(text);
  const second = first ? null : MONTH_SECOND.exec(text);
  const parts = first ?? second;
  if (!parts) return undefined;
  const [, a, b, year] = parts;
  const [month = '', day] = first ? [a, b] : [b, a];
  const number = MONTHS.indexOf(month.slice(0, 3).toLowerCase()) + 1;
  const local = iso(year, number, day, timeOf(parts.slice(4)));
  // A day is one in every zone; an instant is kept as UTC has it.
  return local?.includes('T') ? readDate(local)?.toISOString() : local;
}

function yearFirst(text: string): string | undefined {
  const parts = YEAR_FIRST.exec(text) ?? RUN.exec(text);
  return parts ? iso(parts[1], Number(parts[3]), parts[4], timeOf(parts.slice(5))) : undefined;
}

function yearLast(text: string, isDayFirst: boolean): string | undefined {
  const parts = YEAR_LAST.exec(text);
  if (!parts) return undefined;
  const [a, b, year] = parts.slice(1, 10).filter((part) => part !== undefined);
  const [day, month] = isDayFirst ? [a, b] : [b, a];
  return iso(year, Number(month), day, timeOf(parts.slice(10)));
}

/** The date that a cell holds as ISO 8601, or undefined. */
export function readDateCell(text: string, order: DateOrder): string | undefined {
  if (readDate(text)) return text;
  switch (order) {
    case 'iso':
      return yearFirst(text);
    case 'mail':
      return inWords(text);
    case 'unix':
      if (!/^\d{9,13}$/.test(text)) return undefined;
      return new Date(Number(text) * (text.length > 10 ? 1 : 1000)).toISOString();
    case 'dmy':
    case 'mdy':
      return yearLast(text, order === 'dmy');
  }
}

/** The order by which most cells can be read, the usual one where they say nothing. */
export function likelyOrder(cells: readonly string[]): DateOrder {
  if (cells.length > 0 && cells.every((cell) => /^\d{9,13}$/.test(cell))) return 'unix';
  const read = (order: DateOrder) =>
    cells.filter((cell) => readDateCell(cell, order) !== undefined).length;
  return WRITTEN.reduce<DateOrder>(
    (best, order) => (read(order) > read(best) ? order : best),
    'iso',
  );
}

/** Whether a cell can hardly be anything but a date: 1.2.26 may be a version as well. */
export const isSurelyDate = (cell: string): boolean =>
  !/^\d{1,2}\.\d{1,2}\.\d{2}(?!\d)/.test(cell) ||
  /^\d{2}\.\d{2}\./.test(cell) ||
  Number.parseInt(cell, 10) > 12;

export const SAMPLE_DATE: Record<DateOrder, string> = {
  iso: '2026-03-31',
  dmy: '31.3.2026',
  mdy: '3/31/2026',
  mail: '31 Mar 2026 or Tue, 31 Mar 2026 09:00:00 GMT',
  unix: '1774947600',
};
