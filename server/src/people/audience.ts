import type { Audience } from '@carafe/contract';
import { compile, evaluate, parsedFormula } from '@carafe/core/formula';
import { assembleRecord, productIndex } from '@carafe/core/record';
import { contextFor } from '@carafe/core/render';
import { Refusal } from '../http/errors';
import type { Job } from '../jobs/jobs';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';
import type { PeopleRepository } from './repository';

export interface AudienceTask {
  shop: string;
  /** A condition over the record of one recipient. */
  formula: string;
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

/** Counting a condition takes at most so many steps for all recipients together, some ten seconds. */
const MOST_STEPS = 1e9;

/**
 * For how many recipients of a shop a condition holds, and one of each kind to look at; null where that
 * takes too long to count.
 */
export function audienceOf(
  parts: SharedParts & { people: Pick<PeopleRepository, 'each' | 'some'> },
  { shop, formula, now }: AudienceTask,
  mostSteps = MOST_STEPS,
): Audience | null {
  const asOf = new Date(now);
  const parsed = parsedFormula(formula);
  const shared = sharedDataOf(parts, shop, asOf, null);
  const none: Audience = { of: 0, holds: 0, yes: null, no: null };
  if (!parsed.ok || !shared) return none;
  const condition = compile(parsed.value);
  const products = productIndex(shared);
  let [of, holds, steps] = [0, 0, 0];
  let [yes, no]: (number | null)[] = [null, null];
  for (const { id, data } of parts.people.each(shop)) {
    const context = contextFor(assembleRecord(data, shared, products), { asOf });
    const { total } = context;
    const isHeld = evaluate(condition, context) === true;
    steps += total - context.total;
    if (steps > mostSteps) return null;
    of++;
    if (isHeld) {
      holds++;
      yes ??= id;
    } else no ??= id;
  }
  const one = (id: number | null | undefined) =>
    id === null || id === undefined ? null : (parts.people.some(shop, [id])[0] ?? null);
  return { of, holds, yes: one(yes), no: one(no) };
}
