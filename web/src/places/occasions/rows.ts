import type { Step } from '@carafe/core/occasion';

/** Where a row of steps stands: at the top, or as a way of a branch (the last for “else”). */
export type RowPath = readonly { branch: string; way: number }[];

/** The steps with those of one row changed. */
export function withRow(
  steps: readonly Step[],
  path: RowPath,
  change: (row: Step[]) => Step[],
): Step[] {
  const [first, ...rest] = path;
  if (!first) return change([...steps]);
  return steps.map((step) => {
    if (step.id !== first.branch || step.kind !== 'branch') return step;
    if (first.way >= step.ways.length)
      return { ...step, otherwise: withRow(step.otherwise, rest, change) };
    const ways = step.ways.map((way, i) =>
      i === first.way ? { ...way, steps: withRow(way.steps, rest, change) } : way,
    );
    return { ...step, ways };
  });
}

/** A row with one step at another place. */
export function moved(row: readonly Step[], from: number, to: number): Step[] {
  const next = [...row];
  const [one] = next.splice(from, 1);
  if (one) next.splice(to, 0, one);
  return next;
}

/** A new step of a kind. */
export function newStep(kind: Step['kind'], id: string): Step {
  switch (kind) {
    case 'wait':
      return { id, kind, for: { n: 1, unit: 'days' } };
    case 'guard':
      return { id, kind, when: '', otherwise: 'stop' };
    case 'send':
      return { id, kind, template: '', mail: 'marketing', mode: 'held', to: 'person' };
    case 'branch':
      return { id, kind, ways: [{ when: '', steps: [] }], otherwise: [] };
  }
}
