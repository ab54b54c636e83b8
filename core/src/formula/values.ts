import { dayAt } from './days';
import { numberLike, plainNumber } from './number';

/** A record: an object of which only its own fields are seen. */
export interface Fields {
  readonly [name: string]: unknown;
}
/** What a formula gives. `undefined` is `missing`; a Date is an instant, or a calendar day (Day). */
export type Value = undefined | string | number | boolean | Date | readonly unknown[] | Fields;

/** Brings anything found in data to a value: null and what cannot be computed with become missing. */
export function toValue(found: unknown): Value {
  switch (typeof found) {
    case 'string':
    case 'boolean':
      return found;
    case 'number':
      return Number.isFinite(found) ? found : undefined;
    case 'object':
      if (found === null) return undefined;
      if (found instanceof Date) return Number.isNaN(found.getTime()) ? undefined : found;
      return found as Fields | readonly unknown[];
    default:
      return undefined;
  }
}

export function isList(value: unknown): value is readonly unknown[] {
  return Array.isArray(value);
}

export function isRecord(value: unknown): value is Fields {
  return (
    typeof value === 'object' && value !== null && !Array.isArray(value) && !(value instanceof Date)
  );
}

/** The field of a record, seen only if it is the record's own. */
export function fieldOf(record: Fields, name: string): Value {
  return Object.hasOwn(record, name) ? toValue(record[name]) : undefined;
}

/**
 * A reader of one field, the same as fieldOf. Hot: filling a mail is mostly this. What a plain
 * object has is its own, but for the few names that Object.prototype has, so asking is spared.
 */
export function fieldReader(name: string): (record: Fields) => Value {
  const inherited = name in Object.prototype;
  return (record) => {
    const prototype: unknown = Object.getPrototypeOf(record);
    if (inherited || (prototype !== Object.prototype && prototype !== null))
      return fieldOf(record, name);
    const found = record[name];
    return typeof found === 'string' ? found : toValue(found);
  };
}

/** Blank: missing, a text of white space only, or an empty list. */
export function isBlank(value: Value): boolean {
  if (value === undefined) return true;
  if (typeof value === 'string') {
    // Most texts begin with a letter: then nothing more is looked at.
    const first = value.charCodeAt(0);
    return !(first > 32 && first < 127) && value.trim().length === 0;
  }
  return isList(value) && value.length === 0;
}

/** A number, or a text that is wholly a JSON number, as a number. */
export function toNumber(value: Value): number | undefined {
  if (typeof value === 'number') return value;
  return typeof value === 'string' ? numberLike(value) : undefined;
}

const ISO_DATE =
  /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?(Z|[+-]\d{2}(?::?\d{2})?)?)?$/;

/** The number that so many digits of a text come to; NaN where they are none. */
function digits(text: string, from: number, many: number): number {
  let number = 0;
  for (let i = from; i < from + many; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (!(digit >= 0 && digit <= 9)) return Number.NaN;
    number = number * 10 + digit;
  }
  return number;
}

/** Days of the year before each month, in a year that is no leap year. */
const BEFORE = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];
/** Days from the first of the year 1 to the first of 1970. */
const TO_1970 = 719_162;

/**
 * An instant as it is mostly stored, "2026-11-24T09:00:00.000Z", in milliseconds; NaN for whatever is not quite
 * that, which is read the long way. Hot: every date of every recipient is read.
 */
function storedInstant(text: string): number {
  const isStored =
    text.length === 24 &&
    text.charCodeAt(4) === 45 &&
    text.charCodeAt(7) === 45 &&
    text.charCodeAt(10) === 84 &&
    text.charCodeAt(13) === 58 &&
    text.charCodeAt(16) === 58 &&
    text.charCodeAt(19) === 46 &&
    text.charCodeAt(23) === 90 &&
    text.charCodeAt(0) !== 48;
  if (!isStored) return Number.NaN;
  const year = digits(text, 0, 4);
  const month = digits(text, 5, 2);
  const day = digits(text, 8, 2);
  const hour = digits(text, 11, 2);
  const minute = digits(text, 14, 2);
  const second = digits(text, 17, 2);
  if (!(month > 0 && month < 13 && day > 0 && day < 29)) return Number.NaN;
  if (!(hour < 24 && minute < 60 && second < 60)) return Number.NaN;
  const isLeap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  const past = year - 1;
  const leaps = Math.floor(past / 4) - Math.floor(past / 100) + Math.floor(past / 400);
  const ofYear = (BEFORE[month - 1] ?? 0) + (isLeap && month > 2 ? 1 : 0) + day - 1;
  const days = past * 365 + leaps + ofYear - TO_1970;
  return ((days * 24 + hour) * 60 + minute) * 60_000 + second * 1000 + digits(text, 20, 3);
}

/** What an instant of ISO 8601 is in milliseconds, as Date.parse reads it, a stored one three times as quickly. */
export function instantOf(text: string): number {
  const stored = storedInstant(text);
  return Number.isNaN(stored) ? Date.parse(text) : stored;
}

/** No date, written however widely, is longer. */
const MAX_DATE_LENGTH = 200;

/** Reads an ISO 8601 date, which is a Day, or date-time; without a zone it is read as UTC. */
export function readDate(text: string): Date | undefined {
  const stored = storedInstant(text);
  if (!Number.isNaN(stored)) return new Date(stored);
  if (text.length > MAX_DATE_LENGTH) return undefined;
  const parts = ISO_DATE.exec(text.trim());
  if (!parts) return undefined;
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0] = parts
    .slice(1, 7)
    .map((part) => Number(part ?? 0));
  const date = new Date(0);
  date.setUTCFullYear(year, month - 1, day);
  if (date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day) return undefined;
  if (parts[4] === undefined) return dayAt(date.getTime());
  if (hour > 23 || minute > 59 || second > 59) return undefined;
  date.setUTCHours(hour, minute, second, Math.trunc(Number(`0.${parts[7] ?? 0}`) * 1000));
  return new Date(date.getTime() - zoneMinutes(parts[8]) * 60_000);
}

function zoneMinutes(zone = 'Z'): number {
  if (zone === 'Z') return 0;
  const minutes = Number(zone.slice(1, 3)) * 60 + Number(zone.slice(3).replace(':', '') || 0);
  return zone.startsWith('-') ? -minutes : minutes;
}

/** A date, or a text that is an ISO date, as a date. */
export function toDate(value: Value): Date | undefined {
  if (value instanceof Date) return value;
  return typeof value === 'string' ? readDate(value) : undefined;
}

/** A list; a record counts as a list of one, missing as the empty list; anything else is none. */
export function toList(value: Value): readonly unknown[] | undefined {
  if (isList(value)) return value;
  if (value === undefined) return [];
  return isRecord(value) ? [value] : undefined;
}

/**
 * Text folded for comparing: NFC, case ignored by full case folding (Unicode Standard, 3.13, D145),
 * so that "ΟΔΟΣ" is "οδος" and "οδοσ", and "GROSS" is "groß".
 */
export function fold(text: string): string {
  if (/^[\x00-\x7f]*$/.test(text)) return text.toLowerCase();
  // Folding is lowering what was raised; a dotless i alone would become another letter by that.
  const folded = text.normalize('NFC').split('ı').map(raisedAndLowered).join('ı');
  return folded.replaceAll('ς', 'σ').normalize('NFC');
}

const raisedAndLowered = (text: string) => text.toLowerCase().toUpperCase().toLowerCase();

/** Steps that work over a text costs: sixteen characters of folding, copying or matching are one. */
export function textSteps(length: number): number {
  return length >> 4;
}

/** Texts in the order of their code points; halves of a pair stand above every other unit. */
export function orderFolded(left: string, right: string): number {
  const shared = Math.min(left.length, right.length);
  for (let i = 0; i < shared; i++) {
    const a = left.charCodeAt(i);
    const b = right.charCodeAt(i);
    if (a !== b) return codePointRank(a) - codePointRank(b);
  }
  return left.length - right.length;
}

const codePointRank = (unit: number) => ((unit & 0xf800) === 0xd800 ? unit + 0x10000 : unit);

/** A single value as running text shows it; lists are printed by `textOf`. */
export function scalarText(value: Value, printDate: (date: Date) => string): string {
  switch (typeof value) {
    case 'string':
      return value;
    case 'number':
      return plainNumber(value);
    case 'boolean':
      return value ? 'true' : 'false';
    default:
      return value instanceof Date ? printDate(value) : '';
  }
}
