import { compile, evaluate, parsedFormula, printValue, type Value } from '@carafe/core/formula';
import { byName, expandFormula } from '@carafe/core/library';
import { assembleRecord, productIndex } from '@carafe/core/record';
import { contextFor } from '@carafe/core/render';
import type { LibraryRepository } from '../library/repository';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';
import type { PeopleRepository } from './repository';

export type EverybodyParts = SharedParts & {
  people: Pick<PeopleRepository, 'each' | 'some'>;
  library: Pick<LibraryRepository, 'list'>;
};

/** Asking a formula of all recipients takes at most so many steps together, some ten seconds. */
const MOST_STEPS = 1e9;

/** What a formula gives for one recipient. */
export interface Given {
  id: number;
  value: Value;
  /** As it prints. */
  text: () => string;
}

/**
 * Asks a formula of everybody in a shop, one after the other; ends with null where that takes too long. A
 * formula that cannot be read, and a shop that is not there, ask nobody.
 */
export function* everybody(
  parts: EverybodyParts,
  { shop, formula, now }: { shop: string; formula: string; now: string },
  mostSteps = MOST_STEPS,
): Generator<Given | null> {
  const asOf = new Date(now);
  const named = byName(parts.library.list(shop, 'formula').map(({ document }) => document));
  const parsed = parsedFormula(expandFormula(formula, named));
  const shared = sharedDataOf(parts, shop, asOf, null);
  if (!parsed.ok || !shared) return;
  const compiled = compile(parsed.value);
  const products = productIndex(shared);
  let steps = 0;
  for (const { id, data } of parts.people.each(shop)) {
    const context = contextFor(assembleRecord(data, shared, products), { asOf });
    const { total } = context;
    const value = evaluate(compiled, context);
    steps += total - context.total;
    if (steps > mostSteps) {
      yield null;
      return;
    }
    yield { id, value, text: () => printValue(value, context) };
  }
}
