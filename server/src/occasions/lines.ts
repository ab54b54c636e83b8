import type { WalkLine } from '@carafe/contract';
import {
  allSteps,
  REASONS,
  sayStep,
  type AskedValue,
  type Names,
  type Occasion,
  type ToldEffect,
} from '@carafe/core/occasion';

const POSTPONED = {
  a_day: 'because this person has had the most marketing emails allowed in a day',
  a_week: 'because this person has had the most marketing emails allowed in a week',
  priority: 'because an email with a higher priority goes first',
};

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** What the engine told, as a sentence. */
export function sayEffect(effect: ToldEffect, sayOf: (step: string | null) => string): string {
  switch (effect.kind) {
    case 'entered':
      return 'Entered.';
    case 'not_entered':
      return `Did not enter: ${lower(REASONS[effect.why])}.`;
    case 'asked':
      return `${sayOf(effect.step) || 'A condition'}: ${effect.held ? 'met' : 'not met'}.`;
    case 'waits':
      return `${sayOf(effect.step) || 'Waits'}.`;
    case 'postponed':
      return `${sayOf(effect.step) || 'An email'}: postponed, ${POSTPONED[effect.why]}.`;
    case 'mail':
      return `${sayOf(effect.step.id) || 'An email'}: created.`;
    case 'not_made':
      return `${sayOf(effect.step) || 'An email'}: not created, ${lower(REASONS[effect.why])}.`;
    case 'ended':
      return effect.why === null ? 'Completed.' : `Ended: ${lower(REASONS[effect.why])}.`;
  }
}

const stepOf = (effect: ToldEffect): string | null =>
  effect.kind === 'mail' ? effect.step.id : 'step' in effect ? effect.step : null;

/** What was asked, as it was then; what was told before values were kept has none. */
export const valuesOf = (effect: ToldEffect): AskedValue[] =>
  ('values' in effect && effect.values) || [];

/** How a step of an occasion is said; nothing for one that is not there. */
export const sayerOf =
  (occasion: Occasion | null, names: Names) =>
  (id: string | null): string => {
    const step = occasion && id !== null && allSteps(occasion.steps).find((one) => one.id === id);
    return step ? sayStep(step, names) : '';
  };

/** A line of a walk, with the values of its condition. */
export function sayLine(effect: ToldEffect, occasion: Occasion | null, names: Names): WalkLine {
  return {
    ...{ at: new Date(effect.at).toISOString(), kind: effect.kind, step: stepOf(effect) },
    ...{ occasion: effect.occasion, cause: effect.cause },
    parts: valuesOf(effect),
    text: sayEffect(effect, sayerOf(occasion, names)),
    held: effect.kind === 'asked' ? effect.held : null,
  };
}
