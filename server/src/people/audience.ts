import type { Audience } from '@carafe/contract';
import { parsedFormula } from '@carafe/core/formula';
import type { WhomAsks } from '@carafe/core/occasion';
import { Refusal } from '../http/errors';
import type { Job } from '../jobs/jobs';
import { everybody, type Asking, type EverybodyParts } from './everybody';

export interface AudienceTask {
  shop: string;
  /** A condition over the record of one recipient. */
  formula: string;
  /** Asked of these alone. */
  whom?: WhomAsks;
  /** ISO 8601. */
  now: string;
}
export interface AudienceJobs {
  /** Null where it takes too long to count. */
  audience: Job<AudienceTask, Audience | null>;
}

/** The parts of a formula that its author can be told of; a formula that cannot be read asks nobody. */
export function refuseUnread(formula: string): void {
  const parsed = parsedFormula(formula);
  if (!parsed.ok) throw new Refusal(422, `This formula cannot be read: ${parsed.error.message}`);
}

/**
 * For how many recipients of a shop a condition holds, and one of each kind to look at; null where that
 * takes too long to count.
 */
export function audienceOf(
  parts: EverybodyParts,
  task: AudienceTask,
  asking?: Asking,
): Audience | null {
  let [of, holds, unknown] = [0, 0, 0];
  let [yes, no]: (number | null)[] = [null, null];
  for (const given of everybody(parts, task, { ...asking, whom: task.whom })) {
    if (!given) return null;
    of++;
    if (given.isUnknown) unknown++;
    else if (given.value === true) {
      holds++;
      yes ??= given.id;
    } else no ??= given.id;
  }
  const one = (id: number | null | undefined) =>
    id === null || id === undefined ? null : (parts.people.some(task.shop, [id])[0] ?? null);
  return { of, holds, ...(unknown > 0 && { unknown }), yes: one(yes), no: one(no) };
}
