import { readValue, type CellKind, type Reading } from '../formats/cells';
import { isDateField } from '../record/dates';
import type { MappedColumn, Mapping } from './mapping';
import type { Target } from './targets';

export interface CellProblem {
  column: string;
  message: string;
}

/** A row as it will be stored, or why it cannot be. */
export type RowRead =
  | { ok: true; key: string; record: Record<string, unknown> }
  | { ok: false; key: string | null; problems: CellProblem[] };

/** Reads rows: cells in the order of the file's columns. */
export type RowReader = (cells: readonly unknown[]) => RowRead;

interface CellField {
  name: string;
  index: number;
  column: string;
  reading: Reading;
  /** Dates that the record does not name are marked as such. */
  marked: boolean;
}
type Filling = { name: string; one: CellField } | { name: string; members: CellField[][] };

function cellField(mapped: MappedColumn, to: string, index: number): CellField {
  const { column, reading } = mapped;
  return { name: to, index, column, reading, marked: reading.kind === 'date' && !isDateField(to) };
}

/** Fields by name, so that the same data always gives the same JSON. */
function fillingsOf(mapping: Mapping, columns: readonly string[]): Filling[] {
  const at = new Map(columns.map((column, i) => [column, i]));
  const fillings = new Map<string, Filling>();
  for (const mapped of mapping.columns) {
    const index = at.get(mapped.column);
    const { to, list } = mapped;
    if (to === null || index === undefined) continue;
    if (!list) fillings.set(to, { name: to, one: cellField(mapped, to, index) });
    else {
      const known = fillings.get(list.name);
      const members = known && 'members' in known ? known.members : [];
      (members[list.member] ??= []).push(cellField(mapped, to, index));
      fillings.set(list.name, { name: list.name, members });
    }
  }
  return [...fillings.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
}

const bare = () => Object.create(null) as Record<string, unknown>;

/** Whether every row of the file is one line of something larger. */
export function hasRowLines(mapping: Mapping): boolean {
  return mapping.columns.some((c) => c.to !== null && c.list?.member === 0);
}

/** What every row gets in the fields that no column fills; a value that cannot stand in its field is a problem of each. */
function fixedCells(mapping: Mapping, target: Target, now: string) {
  return (mapping.fixed ?? []).map((fixed) => {
    const { to } = fixed;
    const kind = target.fields.find(({ name }) => name === to)?.kind ?? 'text';
    const reading = READ_BY_HAND[kind];
    const cell = fixed.is === 'value' ? readValue(fixed.value, reading) : readValue(now, reading);
    const isMarked = kind === 'date' && !isDateField(to);
    return { to, cell, isMarked };
  });
}

/** How a value that somebody typed is read, by the kind of its field. */
const READ_BY_HAND: Record<CellKind, Reading> = {
  text: { kind: 'text' },
  any: { kind: 'any' },
  boolean: { kind: 'boolean' },
  number: { kind: 'number', decimal: '.' },
  date: { kind: 'date', order: 'iso' },
  list: { kind: 'list', separator: ',' },
};

export interface ReadOptions {
  /** Off where several rows make one record, which is finished later. */
  whole?: boolean;
  /** When the file is read (ISO 8601), for fields that get the time of the import. */
  now: string;
}

/** Makes a reader of rows for a mapping. Blank cells are missing; a row with a wrong cell is refused whole. */
export function rowReader(
  mapping: Mapping,
  columns: readonly string[],
  target: Target,
  { whole = true, now }: ReadOptions,
): RowReader {
  const fillings = fillingsOf(mapping, columns);
  const fixed = fixedCells(mapping, target, now);
  const required = target.fields.filter((field) => field.required);
  const columnOf = new Map(
    mapping.columns.flatMap((c) => (c.to && !c.list ? [[c.to, c.column] as const] : [])),
  );
  return (cells) => {
    let problems: CellProblem[] | null = null;
    // A row that is too long has a stray delimiter somewhere: its cells stand under wrong names.
    if (cells.length > columns.length)
      problems = [
        {
          column: columns.at(-1) ?? '',
          message: `The row has ${cells.length} cells, ${cells.length - columns.length} more than there are columns.`,
        },
      ];
    const fill = (
      record: Record<string, unknown>,
      { index, name, column, reading, marked }: CellField,
    ) => {
      const cell = readValue(cells[index], reading);
      if (!cell.ok) (problems ??= []).push({ column, message: cell.message });
      else if (cell.value !== undefined) record[name] = marked ? { date: cell.value } : cell.value;
    };
    const record = bare();
    for (const filling of fillings) {
      if ('one' in filling) fill(record, filling.one);
      else {
        const members: unknown[] = [];
        for (const memberFields of filling.members) {
          if (!memberFields) continue;
          const member = bare();
          for (const one of memberFields) fill(member, one);
          if (Object.values(member).some((v) => !Array.isArray(v) || v.length > 0))
            members.push(member);
        }
        record[filling.name] = members;
      }
    }
    for (const { to, cell, isMarked } of fixed)
      if (!cell.ok) (problems ??= []).push({ column: to, message: cell.message });
      else record[to] = isMarked ? { date: cell.value } : cell.value;
    for (const { name, label } of required)
      if (record[name] === undefined && !problems?.some((p) => p.column === columnOf.get(name)))
        (problems ??= []).push({
          column: columnOf.get(name) ?? label,
          message: `“${label}” is empty.`,
        });
    const said = record[target.key];
    const key = said === undefined ? null : keyOf(target, String(said as string));
    if (problems) return { ok: false, key, problems };
    if (key !== null && key.length > 500)
      return {
        ok: false,
        key: null,
        problems: [
          {
            column: columnOf.get(target.key) ?? '',
            message: 'This key is longer than 500 letters.',
          },
        ],
      };
    if (!whole) return { ok: true, key: key ?? '', record };
    return finished(record, target, columnOf);
  };
}

/** Addresses are the same in any case; other keys are as they stand. */
export function keyOf(target: Target, key: string): string {
  return target.key === 'email' ? key.trim().toLowerCase() : key.trim();
}

/** Checks and completes a record whose cells were read. */
export function finished(
  record: Record<string, unknown>,
  target: Target,
  columnOf: ReadonlyMap<string, string> = new Map(),
): RowRead {
  const key = keyOf(target, String(record[target.key] as string));
  const wrong = target.finish?.(record);
  if (!wrong) return { ok: true, key, record };
  return {
    ok: false,
    key,
    problems: [{ column: columnOf.get(wrong.field) ?? wrong.field, message: wrong.message }],
  };
}

/** Puts the lines of a row with the same key to those that came before; other fields stay as first said. */
export function joinLines(first: Record<string, unknown>, next: Record<string, unknown>): void {
  for (const [name, value] of Object.entries(next)) {
    const before = first[name];
    if (Array.isArray(before) && Array.isArray(value)) before.push(...(value as unknown[]));
    else if (before === undefined) first[name] = value;
  }
}
