import { z } from 'zod';
import { readDate } from '../formula';
import { numberLike } from '../formula/number';

/** How the cells of a column are read. `any` keeps what a JSON document gives as it is. */
export const Reading = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('text') }),
  z.object({ kind: z.literal('any') }),
  z.object({ kind: z.literal('boolean') }),
  z.object({ kind: z.literal('number'), decimal: z.enum(['.', ',']) }),
  z.object({ kind: z.literal('date'), order: z.enum(['iso', 'dmy', 'mdy', 'mail', 'unix']) }),
  z.object({ kind: z.literal('list'), separator: z.enum(['|', ';', ',']) }),
]);
export type Reading = z.infer<typeof Reading>;
export type CellKind = Reading['kind'];

export type Cell = { ok: true; value: unknown } | { ok: false; message: string };

const YES = new Set('true,yes,y,1,x,on,ja,oui,si,sí,available,in stock'.split(','));
const NO = new Set('false,no,n,0,off,nein,non,unavailable,out of stock,sold out'.split(','));

// A number with its thousands, a currency sign or code on either side, or a per cent sign.
const MONEY = String.raw`(?:[A-Z]{3}|\p{Sc})?`;
const NUMBER = {
  '.': new RegExp(
    String.raw`^${MONEY}\s*([+\-−]?)${MONEY}\s*(\d{1,3}(?:[,'’\s]\d{3})+|\d+)(?:\.(\d+))?\s*(?:${MONEY}|%)$`,
    'u',
  ),
  ',': new RegExp(
    String.raw`^${MONEY}\s*([+\-−]?)${MONEY}\s*(\d{1,3}(?:[.'’\s]\d{3})+|\d+)(?:,(\d+))?\s*(?:${MONEY}|%)$`,
    'u',
  ),
};

/** The number that a cell holds, or undefined: `1.234,50 €` with comma decimals is 1234.5. */
export function readNumber(text: string, decimal: '.' | ','): number | undefined {
  if (decimal === '.') {
    const plain = numberLike(text);
    if (plain !== undefined) return plain;
  }
  const parts = NUMBER[decimal].exec(text);
  if (!parts) return undefined;
  const [, sign = '', whole = '', fraction = ''] = parts;
  const value = Number(`${whole.replace(/\D/g, '')}.${fraction || '0'}`);
  return sign === '' || sign === '+' ? value : -value;
}

const DAYS = /^(\d{1,2})[./\- ](\d{1,2})[./\- ](\d{4})(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/;
const MAIL =
  /^(?:[A-Za-z]{3,9},?\s+)?(\d{1,2})\s+(Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)[a-z]*\s+(\d{2}|\d{4})\s+(\d{1,2}):(\d{2})(?::(\d{2}))?(?:\s*(?:(GMT|UTC?|Z|[ECMP][SD]T)|([+-])(\d{2}):?(\d{2})))?$/i;
const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');
/** Hours west of Greenwich of the zones that RFC 822 names; summer time is one less. */
const WEST: Record<string, number> = { E: 5, C: 6, M: 7, P: 8 };

/** The zone that RFC 822 names as what ISO 8601 writes: `EST` is `-05:00`. */
function namedZone(name: string): string {
  const west = WEST[name.length === 3 ? name.charAt(0) : ''];
  if (west === undefined) return 'Z';
  return `-0${name.charAt(1) === 'D' ? west - 1 : west}:00`;
}

function iso(year: number, month: number, day: number, time = ''): string | undefined {
  const two = (n: number) => String(n).padStart(2, '0');
  const text = `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}${time}`;
  return readDate(text) ? text : undefined;
}

/** A date as mails write it (RFC 5322, 3.3, its older forms in 4.3 too) as ISO 8601. */
function readMailDate(text: string): string | undefined {
  const parts = MAIL.exec(text);
  if (!parts) return undefined;
  const [, day, month = '', year = '', hour = '', minute, second = '00', name, sign, zh, zm] =
    parts;
  const short = Number(year) + (Number(year) < 50 ? 2000 : 1900);
  const zone = sign === undefined ? namedZone((name ?? 'Z').toUpperCase()) : `${sign}${zh}:${zm}`;
  const local = iso(
    year.length === 2 ? short : Number(year),
    MONTHS.indexOf(month.toLowerCase()) + 1,
    Number(day),
    `T${hour.padStart(2, '0')}:${minute}:${second}${zone}`,
  );
  return local && readDate(local)?.toISOString();
}

/** The date that a cell holds as ISO 8601, or undefined. */
export function readDateCell(
  text: string,
  order: Extract<Reading, { kind: 'date' }>['order'],
): string | undefined {
  if (readDate(text)) return text;
  if (order === 'mail') return readMailDate(text);
  if (order === 'unix') {
    if (!/^\d{9,13}$/.test(text)) return undefined;
    return new Date(Number(text) * (text.length > 10 ? 1 : 1000)).toISOString();
  }
  const parts = DAYS.exec(text);
  if (!parts || order === 'iso') return undefined;
  const [, a, b, year, hour, minute, second = '00'] = parts;
  const [day, month] = order === 'dmy' ? [Number(a), Number(b)] : [Number(b), Number(a)];
  const time = hour === undefined ? '' : `T${hour.padStart(2, '0')}:${minute}:${second}Z`;
  return iso(Number(year), month, day, time);
}

const BLANK = { ok: true, value: undefined } as const;

/** Reads one cell; blank is missing. Texts longer than a screen are shortened in what is said. */
export function readCell(text: string, reading: Reading): Cell {
  const trimmed = text.trim();
  if (trimmed === '') return reading.kind === 'list' ? { ok: true, value: [] } : BLANK;
  if (text.includes('\0')) return { ok: false, message: 'It holds a NUL byte, which no text has.' };
  const bad = (what: string): Cell => ({ ok: false, message: `“${shorten(trimmed)}” ${what}.` });
  switch (reading.kind) {
    case 'text':
    case 'any':
      return { ok: true, value: text };
    case 'number': {
      const value = readNumber(trimmed, reading.decimal);
      if (value !== undefined) return { ok: true, value };
      return bad(`is not a number such as ${reading.decimal === ',' ? '12,50' : '12.50'}`);
    }
    case 'boolean': {
      const folded = trimmed.toLowerCase();
      if (YES.has(folded)) return { ok: true, value: true };
      return NO.has(folded) ? { ok: true, value: false } : bad('is neither yes nor no');
    }
    case 'date': {
      const value = readDateCell(trimmed, reading.order);
      if (value !== undefined) return { ok: true, value };
      return bad(`is not a date such as ${SAMPLE_DATE[reading.order]}`);
    }
    case 'list':
      return {
        ok: true,
        value: trimmed
          .split(reading.separator)
          .map((member) => member.trim())
          .filter((member) => member !== ''),
      };
  }
}

/** Reads what a JSON document gives; texts are read like cells. */
export function readValue(value: unknown, reading: Reading): Cell {
  if (typeof value === 'string') return readCell(value, reading);
  if (value === null || value === undefined) return readCell('', reading);
  const { kind } = reading;
  if (kind === 'any') return { ok: true, value };
  if (typeof value === kind) return { ok: true, value };
  if (kind === 'list') {
    if (Array.isArray(value)) return { ok: true, value };
    return { ok: true, value: [value] };
  }
  if (typeof value === 'object') {
    return {
      ok: false,
      message: `It holds ${Array.isArray(value) ? 'a list' : 'a record'}, not a ${KIND_NAMES[kind]}.`,
    };
  }
  return readCell(String(value), reading);
}

export function shorten(text: string, length = 60): string {
  return text.length > length ? `${text.slice(0, length - 1)}…` : text;
}

const SAMPLE_DATE = {
  iso: '2026-03-31',
  dmy: '31.3.2026',
  mdy: '3/31/2026',
  mail: 'Tue, 31 Mar 2026 09:00:00 GMT',
  unix: '1774947600',
} as const;

export const KIND_NAMES: Record<CellKind, string> = {
  text: 'text',
  any: 'value as it is',
  boolean: 'yes or no',
  number: 'number',
  date: 'date',
  list: 'list',
};

/** The rule of a reading in words, with an example. */
export function readingInWords(reading: Reading): string {
  switch (reading.kind) {
    case 'text':
      return 'Text, as it stands';
    case 'any':
      return 'As it stands, lists and records too';
    case 'boolean':
      return 'Yes or no: yes, true, 1, ja, in stock → yes';
    case 'number':
      return reading.decimal === ','
        ? 'Number with comma decimals: 1.234,50 € → 1234.5'
        : 'Number with point decimals: £1,234.50 → 1234.5';
    case 'date':
      return {
        iso: 'Date, year first: 2026-03-31',
        dmy: 'Date, day first: 31.3.2026, 31/03/2026',
        mdy: 'Date, month first: 3/31/2026',
        mail: 'Date as mails and feeds write it: Tue, 31 Mar 2026 09:00:00 GMT',
        unix: 'Seconds or milliseconds since 1970: 1774947600',
      }[reading.order];
    case 'list':
      return `List with “${reading.separator}” between: a${reading.separator}b → a, b`;
  }
}

const NUMERALS = new Set(['0', '1']);
const DATE_ORDERS = ['iso', 'dmy', 'mdy', 'mail'] as const;

/** In a long column one cell in so many may be a slip of the pen, to be told when it is read. */
const SLIPS = 20;

/**
 * The reading that the filled cells of a column fit: all of a short one, nearly all of a long one.
 * `decimal` is what the file uses where a column leaves it open (1,500 may be one and a half or
 * fifteen hundred).
 */
export function guessReading(cells: readonly string[], decimal: '.' | ',' = '.'): Reading {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const every = (holds: (cell: string) => boolean) => {
    let slips = Math.floor(filled.length / SLIPS);
    return filled.length > 0 && filled.every((cell) => holds(cell) || slips-- > 0);
  };
  // A leading zero is part of a code, not of a number.
  if (!filled.some((cell) => /^0\d/.test(cell))) {
    const other = decimal === '.' ? ',' : '.';
    for (const sign of [decimal, other] as const)
      if (every((cell) => readNumber(cell, sign) !== undefined))
        return { kind: 'number', decimal: sign };
  }
  for (const order of DATE_ORDERS)
    if (every((cell) => readDateCell(cell, order) !== undefined)) return { kind: 'date', order };
  const word = (cell: string) => YES.has(cell.toLowerCase()) || NO.has(cell.toLowerCase());
  if (every(word) && !filled.every((cell) => NUMERALS.has(cell))) return { kind: 'boolean' };
  if (filled.some((cell) => cell.includes('|')) && every((cell) => !/[.!?] /.test(cell)))
    return { kind: 'list', separator: '|' };
  return { kind: 'text' };
}
