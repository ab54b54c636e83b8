import {
  evaluate,
  compile,
  isRecord,
  toNumber,
  type Context,
  type Node,
  type Value,
} from '../formula';

const near = (a: number, b: number): number => {
  const apart = Math.abs(a - b);
  return apart / (apart + 1);
};

/** A comparison with an `if`, as the two comparisons that it can become, each with what decides for it. */
function waysOf(node: Node): { test: Node; holds: boolean; then: Node }[] {
  if (node.type !== 'binary') return [];
  for (const side of ['left', 'right'] as const) {
    const chosen = node[side];
    if (chosen.type !== 'call' || chosen.name !== 'if') continue;
    const [test, yes, no] = chosen.args;
    if (!test || !yes) return [];
    const otherwise: Node = no ?? { ...chosen, type: 'missing' };
    return [
      { test, holds: true, then: { ...node, [side]: yes } },
      { test, holds: false, then: { ...node, [side]: otherwise } },
    ];
  }
  return [];
}

/**
 * How far a condition is from being as it is wanted: 0 where it is, else up to 1 for each part that is not (branch
 * distance, Korel 1990, normalised; `and` adds up, `or` takes the nearest).
 */
export function distance(node: Node, context: Context, wanted: boolean): number {
  const valueOf = (inside: Node): Value => evaluate(compile(inside), context);
  if (node.type === 'not') return distance(node.of, context, !wanted);
  if (node.type === 'binary' && (node.op === 'and' || node.op === 'or')) {
    const left = distance(node.left, context, wanted);
    const right = distance(node.right, context, wanted);
    return (node.op === 'and') === wanted ? left + right : Math.min(left, right);
  }
  if ((valueOf(node) === true) === wanted) return 0;
  const ways = waysOf(node).map(
    ({ test, holds, then }) => distance(test, context, holds) + distance(then, context, wanted),
  );
  if (ways.length > 0) return Math.max(0.01, Math.min(...ways));
  if (node.type === 'binary') {
    const left = toNumber(valueOf(node.left));
    const right = toNumber(valueOf(node.right));
    if (left !== undefined && right !== undefined) return Math.max(0.01, near(left, right));
    const [a, b] = [valueOf(node.left), valueOf(node.right)];
    if (a instanceof Date && b instanceof Date)
      return Math.max(0.01, near(a.getTime() / 86_400_000, b.getTime() / 86_400_000));
    // Something that can be compared is nearer than nothing.
    return a === undefined || b === undefined || isRecord(a) ? 1 : 0.9;
  }
  return 1;
}
