import { createContext, useContext } from 'react';
import { framesOf } from '@carafe/core/check';
import {
  compile,
  evaluate,
  parsedFormula,
  type Context,
  type Fields,
  type ScopeFrame,
} from '@carafe/core/formula';
import { sampleContext, sampleText } from '@carafe/core/render';
import { ANY, type Shape } from '@carafe/core/shape';
import type { Loop } from '@carafe/core/template';

/** What tags can name at a place, and what they print for the recipient shown. */
export interface Scope {
  shape: Shape;
  frames: ScopeFrame[];
  context: Context | null;
  /** The shop whose people can be asked; left out where tags stand in a list. */
  shop?: string | undefined;
}

const ScopeContext = createContext<Scope>({ shape: ANY, frames: [], context: null });
export const ScopeProvider = ScopeContext.Provider;
export const useScope = () => useContext(ScopeContext);

export function scopeAt(
  shape: Shape,
  record: Fields | null,
  asOf: Date,
  loops: readonly Loop[],
  shop?: string,
): Scope {
  return {
    shape,
    frames: framesOf(loops, shape),
    context: record && sampleContext(record, { asOf }, loops),
    shop: loops.length === 0 ? shop : undefined,
  };
}

/** What a formula prints in a scope; null where it cannot be told. */
export function printIn(scope: Scope, formula: string): string | null {
  if (!scope.context) return null;
  return sampleText(formula, scope.context);
}

/** Whether a condition holds in a scope; null where it cannot be told. */
export function holdsIn(scope: Scope, formula: string): boolean | null {
  const parsed = parsedFormula(formula);
  if (!parsed.ok || !scope.context) return null;
  return evaluate(compile(parsed.value), scope.context) === true;
}
