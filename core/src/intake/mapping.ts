import { z } from 'zod';
import { Reading } from '../formats/cells';
import type { Target } from './targets';

/** Names that formulas can say without brackets are best; any other text is allowed too. */
const FieldName = z.string().trim().min(1).max(100);

/** What becomes of one column of a file. */
export const MappedColumn = z.object({
  column: z.string(),
  /** The field that it fills; null leaves the column out. */
  to: FieldName.nullable(),
  reading: Reading,
  /**
   * The list that the column belongs to, with the member that it is part of: 1 for the first.
   * Member 0: each row of the file is one member, and rows with the same key come together.
   */
  list: z.object({ name: FieldName, member: z.number().int().min(0).max(500) }).optional(),
  /** Why it was put there. */
  because: z.enum(['name', 'content', 'extra', 'hand']).optional(),
});
export type MappedColumn = z.infer<typeof MappedColumn>;

/** A field that no column fills, and what every row gets in it. */
export const FixedField = z.discriminatedUnion('is', [
  z.object({ to: FieldName, is: z.literal('value'), value: z.string().max(500) }),
  /** The moment at which the file is checked. */
  z.object({ to: FieldName, is: z.literal('import_time') }),
]);
export type FixedField = z.infer<typeof FixedField>;

/** Which column is what. Kept with the source, and used again for its next file. */
export const Mapping = z.object({
  columns: z.array(MappedColumn).max(2000),
  fixed: z.array(FixedField).max(50).optional(),
});
export type Mapping = z.infer<typeof Mapping>;

/** What is wrong with a mapping as a whole, in sentences. */
export function mappingProblems(mapping: Mapping, target: Target): string[] {
  const problems: string[] = [];
  const used = new Map<string, string>();
  for (const { column, to, list } of mapping.columns) {
    if (to === null) continue;
    const place = list ? `${list.name} ${list.member} ${to}` : to;
    const before = used.get(place);
    if (before !== undefined)
      problems.push(`“${before}” and “${column}” both fill “${to}”. Leave one out, or rename it.`);
    used.set(place, column);
  }
  for (const fixed of mapping.fixed ?? []) {
    const { to } = fixed;
    const label = target.fields.find(({ name }) => name === to)?.label ?? to;
    if (fixed.is === 'value' && fixed.value.trim() === '')
      problems.push(`Enter the value of “${label}” for every row.`);
    const before = used.get(to);
    if (before !== undefined)
      problems.push(
        `“${before}” fills “${to}”, which already has a value for every row. Leave one out.`,
      );
    if (to === target.key)
      problems.push(`“${to}” identifies the rows, so it cannot be the same in every row.`);
    used.set(to, to);
  }
  for (const { name, label, required } of target.fields)
    if (required && !used.has(name))
      problems.push(
        name === target.key
          ? `Choose the column that holds the ${label}. It identifies each row.`
          : `No column fills “${label}”, which every ${target.one} needs.`,
      );
  const lists = new Set(mapping.columns.flatMap((c) => (c.to && c.list ? [c.list.name] : [])));
  for (const name of lists)
    if (used.has(name))
      problems.push(
        `“${used.get(name) ?? ''}” fills “${name}”, which is gathered from columns too.`,
      );
  if (
    target.line &&
    !['lines', 'total', 'subtotal'].some((n) => used.has(n)) &&
    !lists.has('lines')
  )
    problems.push(
      `Neither the lines of each ${target.one} nor its total are filled. Choose a column for them, or say that each row is one line.`,
    );
  return problems;
}

/** The mapping of a source, for a file whose columns may differ: new ones as suggested. */
export function reuseMapping(kept: Mapping, suggested: Mapping): Mapping {
  const known = new Map(kept.columns.map((column) => [column.column, column]));
  return {
    columns: suggested.columns.map((column) => known.get(column.column) ?? leftOver(column, kept)),
    ...(kept.fixed && { fixed: kept.fixed }),
  };
}

/** A new column must not take a field that the kept mapping fills already. */
function leftOver(column: MappedColumn, kept: Mapping): MappedColumn {
  const taken =
    kept.columns.some((c) => c.to === column.to && !c.list && !column.list) ||
    kept.fixed?.some(({ to }) => to === column.to && !column.list);
  return taken ? { ...column, to: null } : column;
}
