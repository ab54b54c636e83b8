import { CHOICE_FUNCTIONS } from './choice';
import { DATE_FUNCTIONS } from './dates';
import type { FormulaFunction } from './define';
import { LIST_FUNCTIONS } from './lists';
import { NUMBER_FUNCTIONS } from './numbers';
import { TEXT_FUNCTIONS } from './text';

/** Every function of the language. */
export function allFunctions(): FormulaFunction[] {
  return [
    ...LIST_FUNCTIONS,
    ...TEXT_FUNCTIONS,
    ...NUMBER_FUNCTIONS,
    ...DATE_FUNCTIONS,
    ...CHOICE_FUNCTIONS,
  ];
}

let named: Map<string, FormulaFunction> | undefined;

export function functionNamed(name: string): FormulaFunction | undefined {
  named ??= new Map(allFunctions().map((f) => [f.name, f]));
  return named.get(name);
}
