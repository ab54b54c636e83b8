import { fieldName, readingFor, usualDecimal, type Sample } from './columns';
import { byName } from './names';
import type { MappedColumn, Mapping } from './mapping';
import type { Target } from './targets';

/** The rows of a sample by their key, as it stands in the file. */
function byKey({ columns, rows }: Sample, mapping: Mapping, target: Target): unknown[][][] {
  const key = mapping.columns.find((c) => c.to === target.key && !c.list)?.column;
  const at = key === undefined ? -1 : columns.indexOf(key);
  const groups = new Map<unknown, unknown[][]>();
  for (const row of rows) {
    const said = row[at];
    if (said === undefined || said === null || said === '') continue;
    groups.set(said, [...(groups.get(said) ?? []), row]);
  }
  return [...groups.values()];
}

/** Whether rows of the sample have one key, and something of a line differs between them. */
export function repeatsKey(sample: Sample, mapping: Mapping, target: Target): boolean {
  if (!target.line) return false;
  const repeated = byKey(sample, mapping, target).filter((rows) => rows.length > 1);
  return mapping.columns.some(
    ({ column }, i) =>
      byName(column, target.line ?? []) && repeated.some((rows) => differ(rows, i)),
  );
}

const differ = (rows: readonly unknown[][], i: number) =>
  rows.some((row) => row[i] !== rows[0]?.[i]);

/**
 * Makes each row a line of the record that its key names. What differs between rows of one key, or is
 * called as a field of a line is, is the line's; the rest is said once for all.
 */
export function rowsAsLines(sample: Sample, mapping: Mapping, target: Target): Mapping {
  const groups = byKey(sample, mapping, target);
  const decimal = usualDecimal(sample);
  const needed = new Set(target.fields.filter((f) => f.required).map(({ name }) => name));
  const ofTarget = new Set(target.fields.map(({ name }) => name));
  const columns = mapping.columns.map((one): MappedColumn => {
    const { column, to, list } = one;
    const i = sample.columns.indexOf(column);
    if (list || i < 0 || to === null || needed.has(to)) return one;
    const field = byName(column, target.line ?? []);
    const differs = groups.some((rows) => differ(rows, i));
    if (!differs && (ofTarget.has(to) || !field)) return one;
    return {
      column,
      to: field?.name ?? fieldName(column),
      reading: field ? readingFor(sample, i, field, decimal) : one.reading,
      list: { name: 'lines', member: 0 },
      because: field ? 'name' : 'extra',
    };
  });
  return { ...mapping, columns };
}

/** Makes each row a record of its own again. */
export function rowsApart(mapping: Mapping): Mapping {
  const columns = mapping.columns.map((one): MappedColumn => {
    if (one.list?.member !== 0) return one;
    const { list: _line, ...rest } = one;
    return { ...rest, to: fieldName(one.column), because: 'extra' };
  });
  return { ...mapping, columns };
}
