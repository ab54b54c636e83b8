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
