import { kindName, type Shape } from '../shape';
import type { Node } from './ast';
import type { Finding, Repair } from './finding';
import { numberLike } from './number';
import { print } from './print';
import { readDate } from './values';

/** A sentence, and what mends it where that is known. */
export interface Said {
  /** An error unless said. */
  severity?: Finding['severity'];
  message: string;
  repair?: Repair | undefined;
}

/** What is said of a piece of a formula. */
export interface SaidAt extends Said {
  at: Node;
}

/** A blank name has an answer that always reads well; what else stands for a blank only its writer knows. */
export function nameRepair(node: Node, path: Node): Repair | undefined {
  if (path.type !== 'field' || !/^(?:first_|last_)?name$/.test(path.name)) return undefined;
  const right: Node = { type: 'text', value: 'there', start: 0, end: 0 };
  const text = print({ type: 'otherwise', left: node, right, start: 0, end: 0 });
  return { label: 'Say “there” instead', text };
}

/** The names of a record's fields. */
export function namesOf(shape: Shape): string[] {
  return shape.kind === 'record' ? Object.keys(shape.fields) : [];
}

/** Whether a type is one of these kinds, or may be. */
export function isOne(shape: Shape, ...kinds: Shape['kind'][]): boolean {
  return shape.kind === 'any' || kinds.includes(shape.kind);
}

const A: Partial<Record<Shape['kind'], string>> = { boolean: '', any: '' };
/** A kind with its article: a number, yes or no. */
export const aKind = (shape: Shape) => `${A[shape.kind] ?? 'a '}${kindName(shape)}`;

/** Asking whether something is filled, in place of it. */
export function askFilled(node: Node): Repair {
  const asked = node.type === 'binary' || node.type === 'not' ? `(${print(node)})` : print(node);
  return { label: 'Ask whether it is filled', text: `${asked} is filled` };
}

/** Why something that is asked like a list is none, or null. */
export function listProblem(shape: Shape): string | null {
  return isOne(shape, 'list', 'record') ? null : `This asks a list, and there is ${aKind(shape)}.`;
}

/** Why a comparison is the same for everybody, or null when it can be one or the other. */
export function neverHolds(
  node: Node & { type: 'binary' },
  left: Shape,
  right: Shape,
): string | null {
  if (left.kind === 'any' || right.kind === 'any') return null;
  const always = node.op === '!=' ? 'This always holds' : 'This can never hold';
  const never = `${always}: ${aKind(left)} beside ${aKind(right)}.`;
  const kinds = new Set([left.kind, right.kind]);
  if (kinds.has('record')) return never;
  if (['contains', 'starts with', 'ends with'].includes(node.op))
    return left.kind === 'text' && right.kind === 'text' ? null : never;
  if (kinds.size === 1)
    return (kinds.has('boolean') || kinds.has('list')) && !['=', '!='].includes(node.op)
      ? never
      : null;
  const text = [node.left, node.right].find((side) => side.type === 'text');
  if (kinds.has('text') && kinds.has('number'))
    return text?.type === 'text' && numberLike(text.value) === undefined ? never : null;
  if (kinds.has('text') && kinds.has('date'))
    return text?.type === 'text' && !readDate(text.value)
      ? `${always}: “${text.value}” is not a date such as 2026-03-31.`
      : null;
  return never;
}
