import {
  compile,
  evaluate,
  parsedFormula,
  walk,
  type Context,
  type Node,
} from '@carafe/core/formula';
import { expandFormula } from '@carafe/core/library';
import { isAmong, type WhomAsks } from '@carafe/core/occasion';

/** The names that a formula begins fields with: `cart`, `picks`, … */
export function namesIn(formula: Node): Set<string> {
  const names = new Set<string>();
  walk(formula, (node) => {
    if (node.type === 'name') names.add(node.name);
  });
  return names;
}

/** Tells who is meant. */
export interface Meant {
  /** The names that the fields it asks for begin with. */
  names: ReadonlySet<string>;
  /** Whether somebody is meant, by the context that formulas read and their address. */
  holds: (context: Context, email: unknown) => boolean;
}

/** Reads what is asked of people; null where something of it cannot be read, so that nobody is meant. */
export function meantBy(
  { asks, addresses }: WhomAsks,
  named: ReadonlyMap<string, string>,
): Meant | null {
  const names = new Set<string>();
  const conditions: { is: boolean; holds: ReturnType<typeof compile> }[] = [];
  for (const { formula, is } of asks) {
    const parsed = parsedFormula(expandFormula(formula, named));
    if (!parsed.ok) return null;
    for (const name of namesIn(parsed.value)) names.add(name);
    conditions.push({ is, holds: compile(parsed.value) });
  }
  return {
    names,
    holds: (context, email) =>
      (addresses === null || isAmong(addresses, email)) &&
      conditions.every(({ is, holds }) => (evaluate(holds, context) === true) === is),
  };
}
