import type { World } from './plan';
import { causeKey, type Run } from './state';

/** Whether one way is looked at before another: by time, then by priority, then by name. */
function isBefore(a: Run, b: Run, world: World): boolean {
  if (a.due !== b.due) return a.due < b.due;
  const priority = (run: Run) => world.plan(run.occasion, run.version)?.occasion.priority ?? 0;
  const higher = priority(a) - priority(b);
  if (higher !== 0) return higher > 0;
  return causeKey(a.occasion, a.cause) < causeKey(b.occasion, b.cause);
}

/** The way that is looked at next, of those that are due; null where none is. `until` in milliseconds. */
export function nextRun(runs: readonly Run[], until: number, world: World): Run | null {
  let best: Run | null = null;
  for (const run of runs) if (run.due <= until && (!best || isBefore(run, best, world))) best = run;
  return best;
}
