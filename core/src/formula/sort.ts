import { spend, type Context } from './context';
import { textOf } from './members';
import { numberLike } from './number';
import { isBlank, order, readDate, toNumber, type Value } from './values';

/** Ascending order of keys: as numbers or dates where all are, else as text. Blanks are not given. */
function keyOrder(keys: Value[], c: Context): (a: Value, b: Value) => number {
  const comparable = (a: Value, b: Value) => order(a, b) !== undefined;
  const first =
    keys.find((k) => k instanceof Date) ?? keys.find((k) => typeof k === 'number') ?? keys[0];
  if (keys.every((k) => comparable(first, k))) {
    if (typeof first !== 'string') return (a, b) => order(toSortable(a), toSortable(b)) ?? 0;
    if (keys.every((k) => typeof k === 'string' && numberLike(k) !== undefined))
      return (a, b) => (toNumber(a) ?? 0) - (toNumber(b) ?? 0);
    return (a, b) => order(a, b) ?? 0;
  }
  return (a, b) => order(textOf(a, c), textOf(b, c)) ?? 0;
}

/** Texts beside numbers or dates stand for what they read as. */
function toSortable(key: Value): Value {
  if (typeof key !== 'string') return key;
  return toNumber(key) ?? readDate(key) ?? key;
}

/** Members in the order of their keys: stable, blanks last. */
export function sortMembers(members: Value[], keys: Value[], down: boolean, c: Context): Value[] {
  spend(c, Math.ceil(members.length * Math.log2(members.length + 1)));
  const at = members.map((_, i) => i);
  const blank = at.filter((i) => isBlank(keys[i]));
  const filled = at.filter((i) => !isBlank(keys[i]));
  const compare = keyOrder(
    filled.map((i) => keys[i]),
    c,
  );
  filled.sort((a, b) => (down ? compare(keys[b], keys[a]) : compare(keys[a], keys[b])));
  return [...filled, ...blank].map((i) => members[i]);
}
