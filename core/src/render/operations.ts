import type { Op } from '../build/program';

/** Whether any loop leaves out what stands above it. */
export function asksOnce(ops: readonly Op[]): boolean {
  return ops.some((op) => {
    if (typeof op === 'string') return false;
    if (op.op === 'loop') return op.loop.once === true || asksOnce(op.body);
    if (op.op === 'node' || op.op === 'field') return asksOnce(op.body);
    return 'then' in op && (asksOnce(op.then) || asksOnce(op.else));
  });
}

/** How many characters stand in operations whatever the record: the least that they add to a mail. */
export function wordsIn(ops: readonly Op[]): number {
  return ops.reduce((sum, op) => {
    if (typeof op === 'string') return sum + op.length;
    return op.op === 'field' ? sum + wordsIn(op.body) : sum;
  }, 0);
}
