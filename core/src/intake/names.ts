import type { TargetField } from './targets/define';

/** A name with nothing but letters and digits, accents off: `Art.-Nr` is `artnr`. */
export function folded(name: string): string {
  return name
    .normalize('NFD')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/[^\p{L}\p{Nd}]/gu, '');
}

/** Records that only hold the one that is meant: of `node.price.amount` it is the price. */
const WRAPPERS = new Set(
  'node product item attributes data fields record entry person customer contact profile address'.split(
    ' ',
  ),
);

/** What a name inside of records comes to; undefined where it is none. */
function insideOf(column: string): string | undefined {
  const parts = column.split('.');
  if (parts.length > 1 && /^(?:amount|value)$/i.test(parts.at(-1) ?? '')) parts.pop();
  while (parts.length > 1 && WRAPPERS.has((parts[0] ?? '').toLowerCase())) parts.shift();
  const inside = parts.join('.');
  return inside === column ? undefined : inside;
}

type ByName = (column: string, fields: readonly TargetField[]) => TargetField | undefined;
const itself: ByName = (column, fields) => {
  const name = folded(column);
  return fields.find((field) => folded(field.name) === name || folded(field.label) === name);
};
const alike: ByName = (column, fields) => {
  const name = folded(column);
  return fields.find((field) => field.alike.split(' ').includes(name));
};
/** The field that has this name itself, that files call so, and that is inside of a record. */
export const BY_NAME: readonly ByName[] = [
  itself,
  alike,
  (column, fields) => {
    const inside = insideOf(column);
    return inside === undefined ? undefined : (itself(inside, fields) ?? alike(inside, fields));
  },
];
/** The field that a column of this name fills. */
export function byName(column: string, fields: readonly TargetField[]): TargetField | undefined {
  for (const named of BY_NAME) {
    const field = named(column, fields);
    if (field) return field;
  }
  return undefined;
}
