import { isInteger, isSafeNumber, parse } from 'lossless-json';
import { FormatError } from './formatError';

const MAX_DEPTH = 100;

/** The line that a place in a text stands in, from 1. */
function lineAt(text: string, index: number): number {
  let line = 1;
  for (let i = text.indexOf('\n'); i >= 0 && i < index; i = text.indexOf('\n', i + 1)) line++;
  return line;
}

/** So many digits after each other are more than a number surely keeps. */
const LONG_NUMBER = 16;

/**
 * Refuses what is nested too deep; says how many fields the records of a text have together, and whether it
 * has a number of more digits than a number keeps.
 */
function lookAt(text: string): { fields: number; isLong: boolean } {
  let depth = 0;
  let fields = 0;
  let digits = 0;
  let isLong = false;
  let inText = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (inText) {
      if (code === 92) i++;
      else if (code === 34) inText = false;
    } else if (code >= 48 && code <= 57) {
      if (++digits >= LONG_NUMBER) isLong = true;
      continue;
    } else if (code === 34) inText = true;
    else if (code === 91 || code === 123) {
      if (++depth > MAX_DEPTH)
        throw new FormatError(
          `Line ${lineAt(text, i)}: this is nested more than ${MAX_DEPTH} levels deep.`,
          lineAt(text, i),
        );
    } else if (code === 93 || code === 125) depth--;
    else if (code === 58) fields++;
    digits = 0;
  }
  return { fields, isLong };
}

/** How many fields the records of a value have together. */
function fieldsOf(value: unknown): number {
  if (typeof value !== 'object' || value === null) return 0;
  let fields = 0;
  if (Array.isArray(value)) for (const member of value as unknown[]) fields += fieldsOf(member);
  else
    for (const name in value) {
      const member = (value as Record<string, unknown>)[name];
      fields++;
      if (typeof member === 'object') fields += fieldsOf(member);
    }
  return fields;
}

/** A number, or its digits as text where it is whole and a number would lose some of them: they are keys. */
function numberOf(digits: string): number | string {
  return isInteger(digits) && !isSafeNumber(digits) ? digits : Number(digits);
}

/**
 * Reads a JSON text. Throws a FormatError with the line; refuses what is nested too deep, and a record
 * that says two things under one name.
 */
export function readJson(text: string): unknown {
  const { fields, isLong } = lookAt(text);
  const bare = text.startsWith('\uFEFF') ? text.slice(1) : text;
  try {
    if (isLong) return parse(bare, undefined, numberOf);
    const value = JSON.parse(bare) as unknown;
    // A field fewer than the text has: two have the same name. The slower reader says which.
    return fieldsOf(value) === fields ? value : parse(bare, undefined, numberOf);
  } catch (error) {
    const { message } = error as Error;
    const twice = /Duplicate key '(.*?)'/.exec(message)?.[1];
    if (twice !== undefined)
      throw new FormatError(`“${twice}” stands twice in one record, with different values.`);
    const position = /position (\d+)/.exec(message)?.[1];
    const line = position === undefined ? null : lineAt(bare, Number(position));
    throw new FormatError(
      /end of JSON|Unterminated/.test(message)
        ? 'This JSON ends too early; it is cut off.'
        : line === null
          ? 'This is not JSON.'
          : `Line ${line}: this is not JSON.`,
      line,
    );
  }
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A list of records inside a document, by its JSON Pointer (RFC 6901). */
export interface ListFound {
  pointer: string;
  length: number;
  /** Names of the first record's fields. */
  fields: string[];
}

const escape = (key: string) => key.replace(/~/g, '~0').replace(/\//g, '~1');
const unescape = (key: string) => key.replace(/~1/g, '/').replace(/~0/g, '~');
const MAX_LOOK = 6;

/** Records that stand under their keys, `{"A-1": {"name": …}, "A-2": …}`, as a list with the keys; null for anything else. */
function keyed(value: unknown): Record<string, unknown>[] | null {
  if (!isRecord(value)) return null;
  const members = Object.entries(value);
  const [[, first] = []] = members;
  if (members.length < 2 || !isRecord(first)) return null;
  const names = Object.keys(first);
  const isAlike = ([, one]: [string, unknown]) =>
    isRecord(one) && names.some((name) => Object.hasOwn(one, name));
  return members.every(isAlike)
    ? members.map(([key, one]) => ({ key, ...(one as Record<string, unknown>) }))
    : null;
}

/** Every list of records in a document, the longest first, for a person to point at; where there is none, records under keys. */
export function listsIn(document: unknown): ListFound[] {
  const found: ListFound[] = [];
  const add = (pointer: string, records: readonly Record<string, unknown>[]) => {
    const [first = {}] = records;
    found.push({ pointer, length: records.length, fields: Object.keys(first).slice(0, 40) });
  };
  const look = (value: unknown, pointer: string, depth: number, isKeyed: boolean): void => {
    if (depth > MAX_LOOK) return;
    if (Array.isArray(value)) {
      if (!isKeyed && value.length > 0 && value.every(isRecord)) add(pointer, value);
      return;
    }
    const records = isKeyed ? keyed(value) : null;
    if (records) add(pointer, records);
    else if (isRecord(value))
      for (const [key, inside] of Object.entries(value))
        look(inside, `${pointer}/${escape(key)}`, depth + 1, isKeyed);
  };
  look(document, '', 0, false);
  if (found.length === 0) look(document, '', 0, true);
  return found.sort((a, b) => b.length - a.length);
}

/** The records that a pointer names. A single record counts as a list of one, unless it holds records under keys. */
export function listAt(document: unknown, pointer: string): Record<string, unknown>[] {
  let value = document;
  for (const key of pointer.split('/').slice(1).map(unescape))
    value = isRecord(value) && Object.hasOwn(value, key) ? value[key] : undefined;
  if (isRecord(value)) return keyed(value) ?? [value];
  if (!Array.isArray(value))
    throw new FormatError(`There is no list at “${pointer || 'the top'}” of this document.`);
  return value.map((member, i) => {
    if (isRecord(member)) return member;
    throw new FormatError(
      `Entry ${i + 1} of the list at “${pointer || 'the top'}” is not a record.`,
    );
  });
}

/** Fields of records inside become columns with a dot: `price.amount`. Lists stay as they are. */
export function flatten(record: Record<string, unknown>): Map<string, unknown> {
  const cells = new Map<string, unknown>();
  const add = (value: unknown, name: string, depth: number): void => {
    if (isRecord(value) && depth < MAX_LOOK) {
      for (const [key, inside] of Object.entries(value)) add(inside, `${name}.${key}`, depth + 1);
    } else cells.set(name, value);
  };
  for (const [key, value] of Object.entries(record)) add(value, key, 1);
  return cells;
}
