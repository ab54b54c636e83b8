import { parsedFormula, print, type Node } from '../formula';
import { COMPARISONS, comparisonNamed, isComplete, isField } from './comparisons';

/** One condition on one field. Values are as they are typed; a clause may be unfinished. */
export interface Clause {
  /** The path of the field, or how many a list has: `count(cart.lines)`. */
  field: string;
  comparison: string;
  values: string[];
}
/** What holds for one member of a list at least, for every one, or for none: “for at least one of cart lines”. */
export interface Members {
  /** The path of the list. */
  list: string;
  how: 'any' | 'every' | 'none';
  /** Of a member: its fields are named without it. */
  where: Sentence;
}
export type Part = Clause | Sentence | Members;
/** All of its parts must hold, any of them, or none. */
export interface Sentence {
  of: 'all' | 'any' | 'none';
  parts: Part[];
}

export const isSentence = (part: Part): part is Sentence => 'parts' in part;
export const isMembers = (part: Part): part is Members => 'where' in part;

/** Groups stand in groups so deep; what is deeper stays a formula. */
const MAX_DEPTH = 8;

/** The formula of a clause; null while it is unfinished. */
export function clauseFormula({ field, comparison, values }: Clause): string | null {
  const known = comparisonNamed(comparison);
  if (!known || field.trim() === '' || !isComplete(known, values)) return null;
  return known.write(field, values);
}

const operator = ({ of }: Sentence) => (of === 'all' ? 'and' : 'or');

function partFormula(part: Part): string {
  if (isSentence(part)) return written(part);
  if (!isMembers(part)) return clauseFormula(part) ?? '';
  const inside = written(part.where);
  if (inside === '' || part.list === '') return '';
  const { how, list } = part;
  return how === 'none' ? `not any(${list}, ${inside})` : `${how}(${list}, ${inside})`;
}

function written(sentence: Sentence): string {
  const said = sentence.parts.flatMap((part) => {
    const formula = partFormula(part);
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

/** `any(list, …)`, `every(list, …)`, `not any(list, …)`. */
function membersOf(node: Node, depth: number): Members | null {
  if (depth > MAX_DEPTH) return null;
  const call = node.type === 'not' ? node.of : node;
  if (call.type !== 'call' || call.args.length !== 2) return null;
  const how = call.name === 'any' ? (call === node ? 'any' : 'none') : call.name;
  if (how !== 'none' && how !== 'any' && (how !== 'every' || call !== node)) return null;
  const [list, inside] = call.args;
  if (!list || !inside || list.type === 'call' || !isField(list)) return null;
  const part = partOf(inside, depth + 1);
  if (!part) return null;
  const where: Sentence = isSentence(part) ? part : { of: 'all', parts: [part] };
  return { list: print(list), how, where };
}

function partOf(node: Node, depth: number): Part | null {
  return clauseOf(node) ?? membersOf(node, depth) ?? groupOf(node, depth);
}

function partsOf(nodes: readonly Node[], depth: number): Part[] | null {
  const parts = nodes.map((node) => partOf(node, depth));
  return parts.some((part) => part === null) ? null : (parts as Part[]);
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
