import { z } from 'zod';
import { numberLike } from '../formula/number';
import { isSurelyDate, readDateCell, SAMPLE_DATE, WRITTEN } from './dateCells';

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

const YES = new Set(
  'true,yes,y,1,x,on,ja,oui,si,sí,sì,tak,sim,wahr,vrai,vero,verdadero,verdadeiro,subscribed,opted in,available,in stock'.split(
    ',',
  ),
);
const NO = new Set(
  'false,no,n,0,off,nein,non,nee,nej,nie,não,falsch,faux,falso,unsubscribed,opted out,unavailable,out of stock,sold out'.split(
    ',',
  ),
);

// A number with its thousands (of India, too), a currency sign, code or short name on either side, or a per cent
// sign. Books write less than nothing in brackets.
const MONEY = String.raw`(?:[A-Z]{0,3}\p{Sc}|[A-Z]{3}|kr\.?|Kr\.?|zł|Kč|Ft|lei|Fr\.?|Rs\.?|лв\.?)?`;
const number = (thousands: string, decimal: string) =>
  new RegExp(
    String.raw`^(\()?${MONEY}\s*([+\-−]?)${MONEY}\s*(${thousands}|\d+|(?=[.,]\d))(?:${decimal}(\d*))?\s*(?:${MONEY}|%)(\))?$`,
    'u',
  );
const NUMBER = {
  '.': number(String.raw`\d{1,3}(?:[,'’\s]\d{3})+|\d{1,2}(?:,\d{2})+,\d{3}`, String.raw`\.`),
  ',': number(String.raw`\d{1,3}(?:[.'’\s]\d{3})+`, ','),
};

/** The number that a cell holds, or undefined: `1.234,50 €` with comma decimals is 1234.5. */
export function readNumber(text: string, decimal: '.' | ','): number | undefined {
  if (decimal === '.') {
    const plain = numberLike(text);
    if (plain !== undefined) return plain;
  }
  const parts = NUMBER[decimal].exec(text);
  if (!parts) return undefined;
  const [, opened, sign = '', whole = '', fraction = '', closed] = parts;
  if ((opened === undefined) !== (closed === undefined) || (opened && sign)) return undefined;
  const value = Number(`${whole.replace(/\D/g, '') || '0'}.${fraction || '0'}`);
  return !opened && (sign === '' || sign === '+') ? value : 0 - value;
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
        mail: 'Date with its month in letters: 31 Mar 2026, Mar 31, 2026 9:05 am',
        unix: 'Seconds or milliseconds since 1970: 1774947600',
      }[reading.order];
    case 'list':
      return `List with “${reading.separator}” between: a${reading.separator}b → a, b`;
  }
}

const NUMERALS = new Set(['0', '1']);

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
  for (const order of WRITTEN)
    if (every((cell) => readDateCell(cell, order) !== undefined) && filled.some(isSurelyDate))
      return { kind: 'date', order };
  const word = (cell: string) => YES.has(cell.toLowerCase()) || NO.has(cell.toLowerCase());
  if (every(word) && !filled.every((cell) => NUMERALS.has(cell))) return { kind: 'boolean' };
  if (filled.some((cell) => cell.includes('|')) && every((cell) => !/[.!?] /.test(cell)))
    return { kind: 'list', separator: '|' };
  return { kind: 'text' };
}
