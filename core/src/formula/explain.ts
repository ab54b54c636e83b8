import { walk, type Node, type Span } from './ast';
import { compile, evaluate } from './compile';
import type { Context, Reason } from './context';
import { printValue } from './members';
import { isList, isRecord, type Value } from './values';

/** One part of a formula with the value that it had. */
export interface Part extends Span {
  source: string;
  value: string;
}

/** Why a formula gave what it gave, for one recipient. */
export interface Explanation {
  value: Value;
  /** The value as a short sentence of its own. */
  summary: string;
  /** The paths, calls and comparisons inside, with their values, in reading order. */
  parts: Part[];
  reasons: Reason[];
}

/** A value in a few words, whatever it is. */
function describe(value: Value, context: Context): string {
  if (value === undefined) return 'missing';
  if (isList(value)) return value.length === 1 ? 'a list of 1' : `a list of ${value.length}`;
  if (isRecord(value)) return 'a record';
  if (typeof value === 'string') return value.trim() === '' ? 'blank' : `“${value}”`;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return printValue(value, context);
}

/** Makes what runs a formula once more, slowly, and tells the value of each of its parts. */
export function explainer(node: Node, source: string): (context: Context) => Explanation {
  let values = new Map<Node, string>();
  const formula = compile(node, {
    trace: (inside, value, c) => {
      if (!values.has(inside)) values.set(inside, describe(value, c));
    },
  });
  return (context) => {
    values = new Map();
    const asked: Context = { ...context, reasons: [], onFallback: null };
    const value = evaluate(formula, asked);
    const parts: Part[] = [];
    const prefixes = new Set<Node>();
    walk(node, (inside) => {
      if (inside.type === 'field' || inside.type === 'index') prefixes.add(inside.of);
      const told = values.get(inside);
      const constant = ['number', 'text', 'boolean', 'missing'].includes(inside.type);
      if (told === undefined || constant || prefixes.has(inside) || inside === node) return;
      parts.push({
        start: inside.start,
        end: inside.end,
        source: source.slice(inside.start, inside.end),
        value: told,
      });
    });
    return { value, summary: describe(value, context), parts, reasons: asked.reasons ?? [] };
  };
}

/** Runs a formula once more, slowly, and tells the value of each of its parts. */
export const explain = (node: Node, source: string, context: Context): Explanation =>
  explainer(node, source)(context);
