import { walk, type Node } from './ast';
import { spend, type Context, type Evaluate, type Frame } from './context';
import { currencyRoots, nearestCurrency } from './currency';
import { toText, toValue, type Value } from './values';

/** A value as running text in the context's locale. */
export function textOf(value: Value, context: Context): string {
  if (typeof value === 'string') return value;
  return toText(value, (date) => context.locale.date(date, 'medium') ?? '');
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
