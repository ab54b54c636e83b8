import type { WalkLine } from '@carafe/contract';
import {
  allSteps,
  REASONS,
  sayStep,
  type Effect,
  type Names,
  type Occasion,
} from '@carafe/core/occasion';

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** What the engine told, as a sentence. */
export function sayEffect(effect: Effect, sayOf: (step: string | null) => string): string {
  switch (effect.kind) {
    case 'entered':
      return 'Came in.';
    case 'not_entered':
      return `Did not come in: ${lower(REASONS[effect.why])}.`;
    case 'asked':
      return `${sayOf(effect.step) || 'A condition'}: ${effect.held ? 'it held' : 'it did not hold'}.`;
    case 'waits':
      return `${sayOf(effect.step) || 'Waits'}.`;
    case 'mail':
      return `${sayOf(effect.step.id) || 'A mail'}: made.`;
    case 'not_made':
      return `${sayOf(effect.step) || 'A mail'}: not made, ${lower(REASONS[effect.why])}.`;
    case 'ended':
      return effect.why === null ? 'Through to the end.' : `Ended: ${lower(REASONS[effect.why])}.`;
  }
}

const stepOf = (effect: Effect): string | null =>
  effect.kind === 'mail' ? effect.step.id : 'step' in effect ? effect.step : null;

/** How a step of an occasion is said; nothing for one that is not there. */
export const sayerOf =
  (occasion: Occasion | null, names: Names) =>
  (id: string | null): string => {
    const step = occasion && id !== null && allSteps(occasion.steps).find((one) => one.id === id);
    return step ? sayStep(step, names) : '';
  };

/** A line of a walk, without the values of its condition. */
export function sayLine(effect: Effect, occasion: Occasion | null, names: Names): WalkLine {
  return {
    ...{ at: new Date(effect.at).toISOString(), kind: effect.kind, step: stepOf(effect) },
    ...{ occasion: effect.occasion, cause: effect.cause, parts: [] },
    text: sayEffect(effect, sayerOf(occasion, names)),
    held: effect.kind === 'asked' ? effect.held : null,
  };
}
