import { guessReading, type Reading } from '../formats/cells';
import type { MappedColumn, Mapping } from './mapping';
import { findNumbered } from './numbered';
import type { Target, TargetField } from './targets';

/** The beginning of a file: its columns and some rows, cells as they stand. */
export interface Sample {
  columns: string[];
  rows: unknown[][];
}

/** A name with nothing but letters and digits, accents off: `Art.-Nr` is `artnr`. */
export function folded(name: string): string {
  return name
    .normalize('NFD')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/[^\p{L}\p{Nd}]/gu, '');
}

/** The name that a column of its own gets in formulas: `Sow from` is `sow_from`. */
export function fieldName(column: string): string {
  const name = column
    .normalize('NFC')
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{Nd}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
  return /^\p{L}/u.test(name) ? name : name === '' ? 'column' : `_${name}`;
}

const asText = (value: unknown): string =>
  typeof value === 'object' || value === null || value === undefined ? '' : String(value as string);

function texts(sample: Sample, i: number): string[] {
  return sample.rows.map((row) => asText(row[i]).trim()).filter((cell) => cell !== '');
}

/** The reading of a column for a field: what the field wants, in the way that the cells are written. */
export function readingFor(
  sample: Sample,
  i: number,
  field?: TargetField,
  decimal: '.' | ',' = '.',
): Reading {
  const cells = texts(sample, i);
  if (
    cells.length === 0 &&
    sample.rows.some((row) => typeof row[i] === 'object' && row[i] !== null)
  )
    return { kind: 'any' };
  const guessed = guessReading(cells, decimal);
  const wanted = field?.kind;
  if (wanted === undefined || wanted === guessed.kind) return guessed;
  switch (wanted) {
    case 'text':
    case 'any':
    case 'boolean':
      return { kind: wanted };
    case 'number':
      return { kind: 'number', decimal };
    case 'date':
      return {
        kind: 'date',
        order: cells.every((c) => /^\d{9,13}$/.test(c)) && cells.length > 0 ? 'unix' : 'iso',
      };
    case 'list': {
      const separator = (['|', ';', ','] as const).find((s) => cells.some((c) => c.includes(s)));
      return { kind: 'list', separator: separator ?? '|' };
    }
  }
}

const every = (cells: string[], pattern: RegExp) =>
  cells.length > 0 && cells.every((cell) => pattern.test(cell));

/** What cells look like tells the field where the name does not. */
const LOOKS: { field: string; fits: (cells: string[], all: number) => boolean }[] = [
  { field: 'email', fits: (cells) => every(cells, /^[^\s@]+@[^\s@]+\.[^\s@]+$/) },
  {
    field: 'image',
    fits: (cells) => every(cells, /^https?:.*\.(?:png|jpe?g|gif|webp|avif)(?:\?|$)/i),
  },
  { field: 'url', fits: (cells) => every(cells, /^https?:\/\//i) },
  { field: 'currency', fits: (cells) => every(cells, /^[A-Z]{3}$/) && new Set(cells).size <= 5 },
  { field: 'locale', fits: (cells) => every(cells, /^[a-z]{2}-[A-Z]{2}$/) },
  // A code that no two rows share.
  {
    field: 'sku',
    fits: (cells, all) =>
      cells.length === all &&
      new Set(cells).size === all &&
      every(cells, /^(?=.*\d)[\w.\-/]{3,20}$/),
  },
  {
    field: 'price',
    fits: (cells) =>
      every(cells, /^(?:[A-Z]{3}|\p{Sc})?\s*\d[\d.,\s]*[.,]\d{2}\s*(?:[A-Z]{3}|\p{Sc})?$/u),
  },
];

/** The field that has this name itself, and the field that files call so. */
const BY_NAME: ((name: string, fields: TargetField[]) => TargetField | undefined)[] = [
  (name, fields) =>
    fields.find((field) => folded(field.name) === name || folded(field.label) === name),
  (name, fields) => fields.find((field) => field.alike.split(' ').includes(name)),
];
function byName(column: string, fields: TargetField[]): TargetField | undefined {
  const name = folded(column);
  return BY_NAME[0]?.(name, fields) ?? BY_NAME[1]?.(name, fields);
}

/** Comma or point, as most of the cells that tell say. */
export function usualDecimal(sample: Sample): '.' | ',' {
  let comma = 0;
  sample.columns.forEach((_, i) => {
    for (const cell of texts(sample, i)) {
      if (/^\D{0,4}\d[\d.\s]*,\d{1,2}\D{0,4}$/.test(cell)) comma++;
      else if (/^\D{0,4}\d[\d,\s]*\.\d{1,2}\D{0,4}$/.test(cell)) comma--;
    }
  });
  return comma > 0 ? ',' : '.';
}

/**
 * Says for each column of a file which field it may fill, first by its name, then by what its cells
 * look like; what fits nothing becomes a field of its own. Columns with numbers in their names are
 * gathered into a list where the target has lines.
 */
export function suggestMapping(sample: Sample, target: Target): Mapping {
  const decimal = usualDecimal(sample);
  const free = new Map(target.fields.map((field) => [field.name, field]));
  const taken = new Map<number, MappedColumn>();
  const put = (i: number, field: TargetField, because: 'name' | 'content') => {
    free.delete(field.name);
    const column = sample.columns[i] ?? '';
    taken.set(i, {
      column,
      to: field.name,
      reading: readingFor(sample, i, field, decimal),
      because,
    });
  };
  const numbered = target.line ? findNumbered(sample.columns) : [];
  for (const group of numbered)
    for (const { index, member, rest } of group.columns) {
      const field = byName(rest, target.line ?? []);
      taken.set(index, {
        column: sample.columns[index] ?? '',
        to: field?.name ?? fieldName(rest),
        reading: readingFor(sample, index, field, decimal),
        list: { name: 'lines', member },
        because: field ? 'name' : 'extra',
      });
    }
  // A column that is called as the field is goes before one that is only called alike.
  for (const named of BY_NAME)
    sample.columns.forEach((column, i) => {
      const field = taken.has(i) ? undefined : named(folded(column), [...free.values()]);
      if (field) put(i, field, 'name');
    });
  for (const { field: name, fits } of LOOKS) {
    const field = free.get(name);
    if (!field) continue;
    const i = sample.columns.findIndex(
      (_, at) => !taken.has(at) && fits(texts(sample, at), sample.rows.length),
    );
    if (i >= 0) put(i, field, 'content');
  }
  const names = new Set(target.fields.map((field) => field.name));
  sample.columns.forEach((column, i) => {
    if (taken.has(i)) return;
    let name = fieldName(column);
    while (names.has(name)) name = `${name}_2`;
    names.add(name);
    taken.set(i, {
      column,
      to: name,
      reading: readingFor(sample, i, undefined, decimal),
      because: 'extra',
    });
  });
  return { columns: sample.columns.map((_, i) => taken.get(i)).filter((c) => c !== undefined) };
}
