import { compile, evaluate, parsedFormula, rootsOf, type Context } from '@carafe/core/formula';
import { expandFormula } from '@carafe/core/library';
import { isAmong, type WhomAsks } from '@carafe/core/occasion';

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
    for (const name of rootsOf(parsed.value)) names.add(name);
    conditions.push({ is, holds: compile(parsed.value) });
  }
  return {
    names,
    holds: (context, email) =>
      (addresses === null || isAmong(addresses, email)) &&
      conditions.every(({ is, holds }) => (evaluate(holds, context) === true) === is),
  };
}
