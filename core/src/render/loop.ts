import {
  currencyRoots,
  fieldOf,
  isRecord,
  nearestCurrency,
  parsedFormula,
  runnable,
  sortLoop,
  toList,
  toValue,
  type Context,
  type Evaluate,
  type Frame,
  type Node,
  type Value,
} from '../formula';
import type { LoopProgram } from '../build/program';
import { rememberShared, type Walk } from './sharedWalk';

/** What a product is told by; nothing of what is none. */
export const skuOf = (member: unknown): unknown =>
  isRecord(member) ? fieldOf(member, 'sku') : undefined;

/** Parses a formula of a program; what does not parse is missing (build has told of it). */
export function parsedOrMissing(source: string): Node {
  const parsed = parsedFormula(source);
  return parsed.ok ? parsed.value : { type: 'missing', start: 0, end: 0 };
}

/** Runs `work` with a frame in scope. */
export function inFrame<T>(context: Context, frame: Frame | null, work: () => T): T {
  const outer = context.frame;
  context.frame = frame;
  const result = work();
  context.frame = outer;
  return result;
}

function valuesFor(
  members: readonly Value[],
  formula: Evaluate,
  as: string,
  currency: string | undefined,
  c: Context,
): Value[] {
  const frame: Frame = { member: undefined, as, currency, parent: c.frame };
  return inFrame(c, frame, () =>
    members.map((member) => {
      frame.member = member;
      return formula(c);
    }),
  );
}

/** Members with others behind them, up to a number; a product that is there already does not come again. */
function filledUp(members: Value[], others: readonly Value[], most: number): Value[] {
  const keyOf = (member: Value): unknown => skuOf(member) ?? member;
  const all = [...members];
  const known = new Set(members.map(keyOf));
  for (const other of others) {
    if (all.length >= most) break;
    const key = keyOf(other);
    if (known.has(key)) continue;
    known.add(key);
    all.push(other);
  }
  return all;
}

/** Compiles what a loop walks: its list, filtered, put in order, cut short. */
export function compileLoop(loop: LoopProgram, formulas: readonly string[]): Walk {
  const node = parsedOrMissing(formulas[loop.list] ?? '');
  const list = runnable(node);
  const roots = currencyRoots(node);
  const nodes = [node];
  const compiled = (index: number | undefined) => {
    if (index === undefined) return undefined;
    const asked = parsedOrMissing(formulas[index] ?? '');
    nodes.push(asked);
    return runnable(asked);
  };
  const where = compiled(loop.where);
  const by = compiled(loop.by);
  const fill = compiled(loop.fill);
  const { as, atMost, once } = loop;
  const walked: Walk = (c, shown) => {
    const before = toList(list(c)) ?? [];
    const currency = nearestCurrency(c, roots);
    let members: Value[] = before.map(toValue);
    if (where) {
      const holds = valuesFor(members, where, as, currency, c);
      members = members.filter((_, i) => holds[i] === true);
    }
    const isNew = (member: Value) => !shown?.has(skuOf(member));
    if (once && shown) members = members.filter(isNew);
    const kept = members.length;
    if (by)
      members = sortLoop(members, valuesFor(members, by, as, currency, c), loop.down === true, c);
    if (atMost !== undefined && members.length > atMost) members = members.slice(0, atMost);
    else if (fill && atMost !== undefined)
      members = filledUp(
        members,
        (toList(fill(c)) ?? []).map(toValue).filter((one) => !once || isNew(one)),
        atMost,
      );
    return { before, kept, shown: members, currency };
  };
  return once ? walked : rememberShared(walked, nodes, (c) => nearestCurrency(c, roots));
}
