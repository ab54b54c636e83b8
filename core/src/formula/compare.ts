import { charge, spend, type Context } from './context';
import {
  fold,
  isList,
  orderFolded,
  textSteps,
  toDate,
  toNumber,
  toValue,
  type Value,
} from './values';

/** Equality as docs/formulas.md defines it. A day stands for the midnight that begins it. */
export function equals(a: Value, b: Value, c: Context): boolean {
  if (a === undefined || b === undefined) return a === b;
  if (typeof a === 'string' && typeof b === 'string') {
    spend(c, 1);
    if (a === b) return true;
    spend(c, textSteps(a.length + b.length));
    return fold(a.trim()) === fold(b.trim());
  }
  if (typeof a === 'number' || typeof b === 'number') {
    const left = toNumber(a);
    return left !== undefined && left === toNumber(b);
  }
  if (a instanceof Date || b instanceof Date) {
    const [left, right] = [toDate(a), toDate(b)];
    return left !== undefined && right !== undefined && instant(left, c) === instant(right, c);
  }
  if (isList(a) && isList(b)) {
    if (a.length !== b.length) return false;
    spend(c, a.length);
    return a.every((member, i) => equals(toValue(member), toValue(b[i]), c));
  }
  return a === b;
}

const instant = (date: Date, { locale }: Context) => locale.instant(date);

/** Below 0, 0, or above 0 where the two can be put in order, else undefined. */
export function order(a: Value, b: Value, c: Context): number | undefined {
  if (typeof a === 'number' || typeof b === 'number') {
    const left = toNumber(a);
    const right = toNumber(b);
    return left === undefined || right === undefined ? undefined : left - right;
  }
  if (a instanceof Date || b instanceof Date) {
    const [left, right] = [toDate(a), toDate(b)];
    return left && right && instant(left, c) - instant(right, c);
  }
  if (typeof a === 'string' && typeof b === 'string') {
    charge(c, textSteps(a.length + b.length));
    return orderFolded(fold(a.trim()), fold(b.trim()));
  }
  return undefined;
}
