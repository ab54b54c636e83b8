import type { Fields } from '../formula';
import type { AskedValue } from './askedValues';
import type { Effect, ToldEffect } from './effects';
import { segmentFormula } from './entry';
import type { Asked } from './moment';
import type { Occasion } from './occasion';

type Explain = (formula: string, beside: Fields) => Asked;

/** The values for which somebody is not among those an occasion is for. */
function whyNotAmong({ whom }: Occasion, about: Fields, explain: Explain): AskedValue[] {
  const asked: [formula: string, wanted: boolean, beside: Fields][] = [
    [whom.segment ? segmentFormula(whom.segment) : '', true, {}],
    [whom.without ? segmentFormula(whom.without) : '', false, {}],
    [whom.where ?? '', true, { event: about }],
  ];
  for (const [formula, wanted, beside] of asked) {
    if (formula.trim() === '') continue;
    const { holds, parts } = explain(formula, beside);
    if (holds !== wanted) return parts;
  }
  return [];
}

/** By the clock most people are asked at once, and most may not be meant: of them the reason is kept alone. */
const forMany = ({ start: { kind } }: Occasion) => kind === 'at_time' || kind === 'repeating';

/**
 * An effect as it is kept, with the values that a condition asked, or for which somebody did not come in. `explain` asks
 * a condition once more, of the person as they were at that instant.
 */
export function toldEffect(
  effect: Effect,
  occasion: Occasion | null,
  explain: Explain,
): ToldEffect {
  if (effect.kind === 'asked') {
    const { when, beside, ...told } = effect;
    return { ...told, values: explain(when, beside).parts };
  }
  if (effect.kind !== 'not_entered' || effect.why !== 'segment') return effect;
  if (!occasion || forMany(occasion)) return effect;
  const values = whyNotAmong(occasion, { ...effect.about }, explain);
  return values.length > 0 ? { ...effect, values } : effect;
}
