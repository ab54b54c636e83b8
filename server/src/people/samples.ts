import type { Samples } from '@carafe/contract';
import type { Job } from '../jobs/jobs';
import { everybody, type Asking, type EverybodyParts } from './everybody';

export interface SampleTask {
  shop: string;
  formula: string;
  /** ISO 8601. */
  now: string;
}
export interface SampleJobs {
  /** Null where it takes too long. */
  samples: Job<SampleTask, Samples | null>;
}

const MAX_TEXT = 300;

/**
 * What a formula gives for three people: the first for whom it gives something, the one with the most
 * of it, and one for whom it gives nothing; and for how many it gives nothing.
 */
export function samplesOf(
  parts: EverybodyParts,
  task: SampleTask,
  asking?: Asking,
): Samples | null {
  let [of, blank] = [0, 0];
  let first: { id: number; text: string } | null = null;
  let longest: { id: number; text: string } | null = null;
  let none: { id: number; text: string } | null = null;
  for (const given of everybody(parts, task, asking)) {
    if (!given) return null;
    of++;
    const text = given.text();
    const one = { id: given.id, text };
    if (text.trim() === '') {
      blank++;
      none ??= one;
      continue;
    }
    first ??= one;
    if (!longest || text.length > longest.text.length) longest = one;
  }
  const shown = [first, longest === first ? null : longest, none].filter((one) => one !== null);
  return {
    ...{ of, blank },
    people: shown.flatMap(({ id, text }) => {
      const [recipient] = parts.people.some(task.shop, [id]);
      return recipient ? [{ recipient, text: text.slice(0, MAX_TEXT) }] : [];
    }),
  };
}
