import type { AddressPart } from '../build/program';
import { printValue, type Context, type Evaluate } from '../formula';

/** What an address comes to: its words and formulas one after the other. */
export function addressText(
  parts: readonly AddressPart[],
  formula: (index: number) => Evaluate,
): (context: Context) => string {
  const pieces = parts.map((part) => (typeof part === 'string' ? part : formula(part)));
  const [only] = pieces;
  // Most addresses are one formula.
  if (pieces.length === 1 && typeof only === 'function') return (c) => printValue(only(c), c);
  return (c) => {
    let out = '';
    for (const piece of pieces) out += typeof piece === 'string' ? piece : printValue(piece(c), c);
    return out;
  };
}

/** The formulas of an address, as they are told. */
export const addressSource = (parts: readonly AddressPart[], formulas: readonly string[]): string =>
  parts.map((part) => (typeof part === 'string' ? part : `{{ ${formulas[part] ?? ''} }}`)).join('');
