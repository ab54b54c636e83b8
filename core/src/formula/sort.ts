import { MAX_STEPS } from './bounds';
import { Bound, miss, spend, type Context } from './context';
import { textOf } from './members';
import { numberLike } from './number';
import { fold, isBlank, orderFolded, readDate, textSteps, toNumber, type Value } from './values';

/** Keys made ready to be compared: all numbers (dates as milliseconds), or all folded texts. */
type Keys = { numbers: Float64Array } | { texts: string[] };

/** As numbers or dates where all keys are, else as text. Blanks are not given. */
function keysOf(keys: readonly Value[], c: Context): Keys {
  const read = keys.some((key) => key instanceof Date) ? (key: Value) => dateOf(key, c) : toNumber;
  const numbers = new Float64Array(keys.length);
  const areNumbers = keys.every((key, i) => {
    const number = read(key);
    if (number !== undefined) numbers[i] = number;
    return number !== undefined;
  });
  if (areNumbers) return { numbers };
  return {
    texts: keys.map((key) => {
      const text = textOf(key, c);
      spend(c, textSteps(text.length));
      return fold(text.trim());
    }),
  };
}

function dateOf(key: Value, { locale }: Context): number | undefined {
  if (key instanceof Date) return locale.instant(key);
  const date = typeof key === 'string' && numberLike(key) === undefined ? readDate(key) : undefined;
  return date && locale.instant(date);
}

/** What sorting the members of one loop may take: a catalog of a million products. */
const LOOP_STEPS = 50 * MAX_STEPS;

/** Members in the order of their keys: stable, blanks last. */
export function sortMembers(members: Value[], keys: Value[], down: boolean, c: Context): Value[] {
  // Each key is read once; comparing them is a quarter of a step.
  spend(c, Math.ceil((members.length * Math.log2(members.length + 1)) / 4));
  const blank: number[] = [];
  const filled: number[] = [];
  keys.forEach((key, i) => {
    if (typeof key === 'string') spend(c, textSteps(key.length));
    (isBlank(key) ? blank : filled).push(i);
  });
  const ready = keysOf(
    filled.map((i) => keys[i]),
    c,
  );
  const compare =
    'numbers' in ready
      ? (a: number, b: number) => (ready.numbers[a] ?? 0) - (ready.numbers[b] ?? 0)
      : (a: number, b: number) => orderFolded(ready.texts[a] ?? '', ready.texts[b] ?? '');
  const places = filled.map((_, i) => i).sort((a, b) => (down ? compare(b, a) : compare(a, b)));
  return [...places.map((place) => filled[place] as number), ...blank].map((i) => members[i]);
}

/**
 * The same outside of any evaluation, for the members of a loop: it takes from the steps of the whole
 * mail, since a catalog may be long. Past them the members stay as they are, and the reason is noted.
 */
export function sortLoop(members: Value[], keys: Value[], down: boolean, c: Context): Value[] {
  const allowed = Math.min(c.total, LOOP_STEPS);
  c.left = allowed;
  try {
    return sortMembers(members, keys, down, c);
  } catch (error) {
    if (!(error instanceof Bound)) throw error;
    miss(c, { start: 0, end: 0 }, error.message);
    return members;
  } finally {
    c.total -= allowed - Math.max(0, c.left);
  }
}
