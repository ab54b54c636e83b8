import { outcomesOf, type Decision, type Outcome } from '../render';
import { bitsOf, type VariantFigure } from './figures';

/** What is missing where something was to stand weighs most; a list that shows nothing, less; a fallback, least. */
const WEIGHT: Partial<Record<Outcome, number>> = { blank: 3, none: 2, fallback: 1 };

/** How much is missing of the mails of a variant, from nothing on. */
export function gapsOf({ key }: VariantFigure, decisions: readonly Decision[]): number {
  const own = bitsOf(key);
  return decisions.reduce((sum, { kind }, i) => {
    const weights = outcomesOf(kind, own[i] ?? 0).map((outcome) => WEIGHT[outcome] ?? 0);
    return sum + Math.max(0, ...weights);
  }, 0);
}

/** Variants of which something is missing, those of which most is first; of equal ones the larger. */
export function worstFirst(
  variants: readonly VariantFigure[],
  decisions: readonly Decision[],
): VariantFigure[] {
  return variants
    .map((one) => ({ one, gaps: gapsOf(one, decisions) }))
    .filter(({ gaps }) => gaps > 0)
    .sort((a, b) => b.gaps - a.gaps || b.one.people - a.one.people)
    .map(({ one }) => one);
}
