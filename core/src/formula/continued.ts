import type { Shape } from '../shape';
import { check } from './check';
import type { ScopeFrame, Use } from './finding';
import { parsedFormula } from './parsed';

/** What a formula ends with where something is still to come. */
const OPEN =
  /(?:[-+*/&(,[=<>]|\b(?:and|or|not|is|in|contains|starts with|ends with|otherwise|where))\s*$/i;

interface Given {
  /** What formulas can name. */
  shape: Shape;
  frames?: readonly ScopeFrame[];
  use: Use;
}

/**
 * A formula with one more field: put where one is wanted, as behind an operator. A value or a list is replaced by it: whoever
 * chooses another amount means that one. A tag goes on with it, and of a condition both must hold.
 */
export function continued(source: string, path: string, { shape, frames, use }: Given): string {
  const before = source.trimEnd();
  if (before.trim() === '') return path;
  if (OPEN.test(before)) return `${before} ${path}`;
  if (use === 'value' || use === 'list') return path;
  const [whole, more] = [parsedFormula(before), parsedFormula(path)];
  if (!whole.ok || !more.ok) return `${before} ${path}`;
  const kindOf = (node: typeof whole.value) =>
    check(node, shape, { use: 'value', ...(frames && { frames }) }).type.kind;
  const added = kindOf(more.value);
  if (use === 'condition')
    return `${before} and ${added === 'boolean' ? path : `${path} is filled`}`;
  if (added === 'number' && kindOf(whole.value) === 'number') return `${before} + ${path}`;
  return `${before} & " " & ${path}`;
}
