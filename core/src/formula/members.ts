import { walk, type Node } from './ast';
import { MAX_STEPS, MAX_TEXT } from './bounds';
import { Bound, charge, miss, spend, type Context, type Evaluate, type Frame } from './context';
import { currencyRoots, nearestCurrency } from './currency';
import { isBlank, isList, scalarText, textSteps, toValue, type Value } from './values';

/** How deep lists in lists are printed. */
const MAX_NESTED = 64;
const NOWHERE = { start: 0, end: 0 };

/**
 * A value as running text in the context's locale. Printing a list costs its members and their
 * characters as steps, so that a formula cannot print without end.
 */
export function textOf(value: Value, context: Context): string {
  if (typeof value === 'string') return value;
  return isList(value) ? listText(value, context, 0) : scalar(value, context);
}

function scalar(value: Value, { locale }: Context): string {
  return scalarText(value, (date) => locale.date(date, 'medium') ?? '');
}

function listText(list: readonly unknown[], context: Context, depth: number): string {
  if (depth > MAX_NESTED) return '';
  const pieces: string[] = [];
  for (const member of list) {
    const value = toValue(member);
    if (isList(value)) spend(context, 1);
    const text = isList(value) ? listText(value, context, depth + 1) : scalar(value, context);
    if (!isList(value)) spend(context, 1 + text.length);
    pieces.push(text);
  }
  return pieces.join(', ');
}

/**
 * What a value prints where it stands in a mail, outside of any evaluation. Never throws: what is
 * too long to print prints nothing, and the reason is noted.
 */
export function printValue(value: Value, context: Context): string {
  if (typeof value === 'string') {
    if (value.length <= MAX_TEXT) return value;
    miss(context, NOWHERE, TOO_LONG);
    return '';
  }
  if (!isList(value)) return scalar(value, context);
  context.left = MAX_STEPS;
  try {
    return listText(value, context, 0);
  } catch (error) {
    if (!(error instanceof Bound)) throw error;
    miss(context, NOWHERE, TOO_LONG);
    return '';
  }
}
const TOO_LONG = `The printed text can have at most ${MAX_TEXT} characters.`;

/** Whether a value is blank; looking through white space costs as other work over texts does. */
export function blankCosting(value: Value, context: Context): boolean {
  if (typeof value === 'string' && value.length > 256) charge(context, textSteps(value.length));
  return isBlank(value);
}

/** How many nodes a formula has: the steps that one evaluation of it costs at least. */
function weigh(node: Node): number {
  let count = 0;
  walk(node, () => count++);
  return count;
}

/** Reads currencies only where a `money` inside could ask for one. */
export function frameCurrency(list: Node, inside: Node): (context: Context) => string | undefined {
  let asked = false;
  walk(inside, (node) => (asked ||= node.type === 'call' && node.name === 'money'));
  if (!asked) return () => undefined;
  const roots = currencyRoots(list);
  return (context) => nearestCurrency(context, roots);
}

/**
 * Calls `visit` with the value of `inside` for each member of a list, the member's fields in
 * scope; stops when it returns false.
 */
export function memberwise(list: Node, inside: Node, evaluateInside: Evaluate) {
  const weight = weigh(inside);
  const currency = frameCurrency(list, inside);
  return (
    c: Context,
    members: readonly unknown[],
    visit: (value: Value, member: Value) => boolean | undefined,
  ): void => {
    const outer = c.frame;
    const frame: Frame = { member: undefined, as: null, currency: currency(c), parent: outer };
    c.frame = frame;
    for (const found of members) {
      spend(c, weight);
      const member = toValue(found);
      frame.member = member;
      if (visit(evaluateInside(c), member) === false) break;
    }
    c.frame = outer;
  };
}
