import { fieldName, readingFor, texts, usualDecimal, type Sample } from './columns';
import { BY_NAME, byName } from './names';
import type { MappedColumn, Mapping } from './mapping';
import { findNumbered } from './numbered';
import { repeatsKey, rowsAsLines } from './rowLines';
import type { Target, TargetField } from './targets';

const every = (cells: string[], pattern: RegExp) =>
  cells.length > 0 && cells.every((cell) => pattern.test(cell));

const PICTURE = /^https?:.*\.(?:png|jpe?g|gif|webp|avif)(?:\?|$)/i;

/** What cells look like tells the field where the name does not. */
const LOOKS: { field: string; fits: (cells: string[], all: number) => boolean }[] = [
  { field: 'email', fits: (cells) => every(cells, /^[^\s@]+@[^\s@]+\.[^\s@]+$/) },
  { field: 'image', fits: (cells) => every(cells, PICTURE) },
  // A second column of pictures is no link.
  { field: 'url', fits: (cells) => every(cells, /^https?:\/\//i) && !every(cells, PICTURE) },
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

/**
 * Says for each column of a file which field it may fill, first by its name, then by what its cells
 * look like; what fits nothing becomes a field of its own. Columns with numbers in their names are
 * gathered into a list where the target has lines; so are rows that repeat the key.
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
      const field = taken.has(i) ? undefined : named(column, [...free.values()]);
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
  const mapping = {
    columns: sample.columns.map((_, i) => taken.get(i)).filter((c) => c !== undefined),
  };
  return numbered.length === 0 && repeatsKey(sample, mapping, target)
    ? rowsAsLines(sample, mapping, target)
    : mapping;
}
