/** Columns such as `product_1_name`, `product_2_name`: parts of the members of one list. */
export interface Numbered {
  /** What stands before the number: `product`. */
  before: string;
  /** How many members there are at most. */
  members: number;
  columns: { index: number; member: number; rest: string }[];
}

const NAME = /^(.*?)[\s_.\-[(]*(\d{1,3})[\s_.\-\])]*(.*)$/;

/** Finds columns whose names differ in a number only, where at least two members share a part. */
export function findNumbered(columns: readonly string[]): Numbered[] {
  const groups = new Map<string, Numbered['columns']>();
  columns.forEach((column, index) => {
    const parts = NAME.exec(column.trim());
    if (!parts) return;
    const [, before = '', number = '', rest = ''] = parts;
    if (before === '' || rest === '') return;
    const key = before.toLowerCase();
    groups.set(key, [...(groups.get(key) ?? []), { index, member: Number(number), rest }]);
  });
  return [...groups.entries()].flatMap(([before, found]) => {
    const numbers = [...new Set(found.map(({ member }) => member))].sort((a, b) => a - b);
    if (numbers.length < 2) return [];
    // Files count from 0 or from 1; members count from 1.
    const place = new Map(numbers.map((number, i) => [number, i + 1]));
    const columnsOf = found.map((c) => ({ ...c, member: place.get(c.member) ?? 1 }));
    return [{ before, members: numbers.length, columns: columnsOf }];
  });
}
