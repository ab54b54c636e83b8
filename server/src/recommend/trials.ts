import type { TrialAnswer } from '@carafe/contract';
import {
  bestOf,
  halves,
  hiddenOrders,
  leftOut,
  otherWeights,
  someOf,
  tasteOf,
  historyOf,
  trial,
  type Hidden,
  type Rule,
  type TrialResult,
} from '@carafe/core/recommend';
import type { Store } from '../database/store';
import type { Job, Progress } from '../jobs/jobs';
import { activityOfAll } from './activity';
import { readyShop, type ReadyParts, type ReadyTask } from './ready';
import type { TasteRepository } from './tasteRepository';

export type TrialTask = ReadyTask & { rules: Rule[]; tune: boolean };
export interface TrialJobs {
  /** Null where there is no such shop. */
  trial: Job<TrialTask, TrialAnswer | null>;
  /** Reckons what people of a shop like. */
  taste: Job<{ shop: string; now: string }, null>;
}

/** A trial rests on so many people at most, and asks as of so many days. */
const MOST_PEOPLE = 1_500;
const MOST_TIMES = 60;
/** Of a shop with more orders than these, as of fewer days. */
const MANY_LINES = 50_000;
const FEW_TIMES = 12;

/** A trial as one piece of work, telling how far it is. */
async function run(
  rules: readonly Rule[],
  hidden: readonly Hidden[],
  of: {
    activity: Parameters<typeof trial>[2];
    catalog: Parameters<typeof trial>[3];
    times: number;
    segments: ReadonlyMap<string, ReadonlySet<string>>;
  },
  progress: Progress,
  before: number,
): Promise<TrialResult> {
  const steps = trial(rules, hidden, of.activity, of.catalog, of);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    await progress(before + step.value);
    // Whoever waits for this thread is let in, and a stop is heard.
    await new Promise((done) => setImmediate(done));
  }
}

/** Tries rules of a shop on its past. */
export async function trialOf(
  parts: ReadyParts,
  task: TrialTask,
  progress: Progress,
): Promise<TrialAnswer | null> {
  const ready = readyShop(parts, task);
  const [rule, ...others] = task.rules;
  if (!ready || !rule) return null;
  const activity = [...activityOfAll(parts, task.shop)];
  const lines = activity.reduce((sum, { bought }) => sum + bought.length, 0);
  const of = {
    activity,
    catalog: ready.shop.products.map(({ record }) => record),
    times: lines > MANY_LINES ? FEW_TIMES : MOST_TIMES,
    segments: ready.shop.segments,
  };
  const hidden = someOf(hiddenOrders(activity), MOST_PEOPLE);
  if (!task.tune)
    return {
      ...{ of: hidden.length, left_out: leftOut(rule) },
      result: await run(task.rules, hidden, of, progress, 0),
    };
  const [earlier, later] = halves(hidden);
  const candidates = [rule, ...otherWeights(rule)];
  const best = bestOf(candidates, await run(candidates, earlier, of, progress, 0)) ?? rule;
  const result = await run([rule, best, ...others], later, of, progress, earlier.length);
  return {
    ...{ of: later.length, left_out: leftOut(rule) },
    result,
    weights: best.steps.map(({ weight = 1 }) => weight),
  };
}

/** Reckons what people of a shop like, and keeps it. */
export async function makeTaste(
  store: Pick<Store, 'write'>,
  parts: ReadyParts & { tastes: Pick<TasteRepository, 'put'> },
  { shop, now }: { shop: string; now: string },
): Promise<null> {
  const taste = tasteOf(historyOf(activityOfAll(parts, shop)));
  await store.write(() => parts.tastes.put(shop, now, taste));
  return null;
}
