import { parsedFormula, print, type Node } from '../formula';
import { COMPARISONS, comparisonNamed, isComplete, isField } from './comparisons';

/** One condition on one field. Values are as they are typed; a clause may be unfinished. */
export interface Clause {
  /** The path of the field, or how many a list has: `count(cart.lines)`. */
  field: string;
  comparison: string;
  values: string[];
}
/** All of its parts must hold, any of them, or none. */
export interface Sentence {
  of: 'all' | 'any' | 'none';
  parts: (Clause | Sentence)[];
}

export const isSentence = (part: Clause | Sentence): part is Sentence => 'parts' in part;

/** Groups stand in groups so deep; what is deeper stays a formula. */
const MAX_DEPTH = 8;

/** The formula of a clause; null while it is unfinished. */
export function clauseFormula({ field, comparison, values }: Clause): string | null {
  const known = comparisonNamed(comparison);
  if (!known || field.trim() === '' || !isComplete(known, values)) return null;
  return known.write(field, values);
}

const operator = ({ of }: Sentence) => (of === 'all' ? 'and' : 'or');

function written(sentence: Sentence): string {
  const said = sentence.parts.flatMap((part) => {
    const formula = isSentence(part) ? written(part) : (clauseFormula(part) ?? '');
    if (formula === '') return [];
    // What is joined in the same way needs no brackets, and is read back as one group.
    const isApart = isSentence(part) && part.of !== 'none' && operator(part) !== operator(sentence);
    return [isApart ? `(${formula})` : formula];
  });
  if (said.length === 0) return '';
  const whole = said.join(` ${operator(sentence)} `);
  const text = sentence.of === 'none' ? `not (${whole})` : whole;
  const parsed = parsedFormula(text);
  return parsed.ok ? print(parsed.value) : text;
}

/**
 * The formula that says the same as a sentence; empty where nothing of it is finished. Clauses that are
 * not finished ask nothing.
 */
export function sentenceFormula(sentence: Sentence): string {
  const formula = written(sentence);
  // Groups of one part and groups in groups of their kind go, so that over and back changes nothing.
  const plain = formulaSentence(formula);
  return plain ? written(plain) : formula;
}

function clauseOf(node: Node): Clause | null {
  for (const { id, read } of COMPARISONS) {
    const found = read(node);
    if (found) return { field: print(found.field), comparison: id, values: found.values };
  }
  return null;
}

/** The parts that an operator joins, however they are bracketed. */
function joined(node: Node, op: 'and' | 'or'): Node[] {
  return node.type === 'binary' && node.op === op
    ? [...joined(node.left, op), ...joined(node.right, op)]
    : [node];
}

function partOf(node: Node, depth: number): Clause | Sentence | null {
  return clauseOf(node) ?? groupOf(node, depth);
}

function partsOf(nodes: readonly Node[], depth: number): (Clause | Sentence)[] | null {
  const parts = nodes.map((node) => partOf(node, depth));
  return parts.some((part) => part === null) ? null : (parts as (Clause | Sentence)[]);
}

function groupOf(node: Node, depth = 0): Sentence | null {
  if (depth > MAX_DEPTH) return null;
  if (node.type === 'not') {
    const parts = partsOf(joined(node.of, 'or'), depth + 1);
    return parts && { of: 'none', parts };
  }
  if (node.type !== 'binary' || (node.op !== 'and' && node.op !== 'or')) return null;
  const parts = partsOf(joined(node, node.op), depth + 1);
  return parts && { of: node.op === 'and' ? 'all' : 'any', parts };
}

/** A formula as a sentence; null where it says something that no sentence does. */
export function formulaSentence(formula: string): Sentence | null {
  if (formula.trim() === '') return { of: 'all', parts: [] };
  const parsed = parsedFormula(formula);
  if (!parsed.ok) return null;
  const part = partOf(parsed.value, 0);
  if (!part) return null;
  return isSentence(part) ? part : { of: 'all', parts: [part] };
}

/** Whether a path can be the field of a clause. */
export function canBeField(path: string): boolean {
  const parsed = parsedFormula(path);
  return parsed.ok && isField(parsed.value);
}
