import { z } from 'zod';
import { check, parsedFormula, walk, type Node } from '../formula';
import type { Field, Shape } from '../shape';
import { ANY } from '../shape';
import { Formula } from '../template/parts';

/** The record that named formulas are read from: `own.greeting`. */
export const OWN = 'own';
const NAME = /^[\p{L}_][\p{L}\p{Nd}_]{0,39}$/u;

/** A formula that is used by its name: a merge tag or a condition of one's own. */
export const NamedFormula = z.strictObject({
  /** In formulas after `own.`. */
  name: z.string().regex(NAME, 'A name has only letters, digits and _, and begins with a letter.'),
  /** What it is called in lists. */
  label: z.string().trim().min(1, 'A formula needs a name.').max(100),
  description: z.string().max(500),
  /** Formulas of one group stand together. */
  group: z.string().trim().max(60),
  use: z.enum(['value', 'condition']),
  formula: Formula,
});
export type NamedFormula = z.infer<typeof NamedFormula>;

/** One that is still to be written. */
export const UNNAMED: NamedFormula = {
  ...{ name: '', label: '', description: '', group: '', use: 'value', formula: '' },
};

/** Named formulas stand in each other so deep. */
const MAX_DEPTH = 8;

/** Whether a formula is the name of one of the library and nothing more. */
export function isNamed(source: string): boolean {
  const parsed = parsedFormula(source);
  if (!parsed.ok || parsed.value.type !== 'field') return false;
  const { of } = parsed.value;
  return of.type === 'name' && of.name === OWN;
}

/** Where a formula names one of the library: `own.greeting`, with its place. */
function namesIn(node: Node): { name: string; start: number; end: number }[] {
  const found: { name: string; start: number; end: number }[] = [];
  walk(node, (inside) => {
    const { start, end } = inside;
    if (inside.type === 'field' && inside.of.type === 'name' && inside.of.name === OWN)
      found.push({ name: inside.name, start, end });
  });
  return found;
}

/**
 * A formula with the named ones in it put in their place, in brackets. A name that is unknown stays as
 * it is, and so does what would never end; what cannot be read is given back.
 */
export function expandFormula(
  source: string,
  formulas: ReadonlyMap<string, string>,
  depth = MAX_DEPTH,
): string {
  if (!source.includes(OWN) || depth === 0) return source;
  const parsed = parsedFormula(source);
  if (!parsed.ok) return source;
  return namesIn(parsed.value)
    .sort((a, b) => b.start - a.start)
    .reduce((text, { name, start, end }) => {
      const named = formulas.get(name);
      if (named === undefined || !parsedFormula(named).ok) return text;
      return `${text.slice(0, start)}(${expandFormula(named, formulas, depth - 1)})${text.slice(end)}`;
    }, source);
}

/** Named formulas by their names. */
export function byName(formulas: readonly NamedFormula[]): ReadonlyMap<string, string> {
  return new Map(formulas.map(({ name, formula }) => [name, formula]));
}

/** The names that a formula uses, its own among them where it comes round to itself. */
export function usesOf(source: string, formulas: ReadonlyMap<string, string>): Set<string> {
  const used = new Set<string>();
  const visit = (text: string): void => {
    const parsed = parsedFormula(text);
    if (!parsed.ok) return;
    for (const { name } of namesIn(parsed.value)) {
      if (used.has(name)) continue;
      used.add(name);
      visit(formulas.get(name) ?? '');
    }
  };
  visit(source);
  return used;
}

/** The shape of records with the named formulas in it, each of the type that it gives. */
export function withNamed(shape: Shape, formulas: readonly NamedFormula[]): Shape {
  if (shape.kind !== 'record' || formulas.length === 0) return shape;
  const all = byName(formulas);
  const typeOf = (source: string): Shape => {
    const parsed = parsedFormula(expandFormula(source, all));
    return parsed.ok ? check(parsed.value, shape).type : ANY;
  };
  const fields = Object.fromEntries(
    formulas.map(({ name, formula, label }): [string, Field] => [
      name,
      { shape: typeOf(formula), filled: 1, of: 1, samples: [], label },
    ]),
  );
  const own: Field = { shape: { kind: 'record', fields }, filled: 1, of: 1, samples: [] };
  return { kind: 'record', fields: { ...shape.fields, [OWN]: own } };
}

/** What the named formulas give for a record: a record whose fields are worked out when they are asked for. */
export function ownValues(
  formulas: readonly NamedFormula[],
  valueOf: (formula: string) => unknown,
): Record<string, unknown> {
  const all = byName(formulas);
  const own = {};
  for (const { name, formula } of formulas)
    Object.defineProperty(own, name, {
      enumerable: true,
      get: () => valueOf(expandFormula(formula, all)),
    });
  return own;
}
