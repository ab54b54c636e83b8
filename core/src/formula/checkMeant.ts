import type { Shape } from '../shape';
import type { Node } from './ast';
import { isNothing } from './checkNames';
import type { SaidAt } from './checkRules';
import type { Scope } from './checkScope';
import { print, quote } from './print';

type Binary = Node & { type: 'binary' };

/** `or "there"`: what other languages write for a fallback. */
export function fallbackMeant(node: Binary): SaidAt {
  const text = `${print(node.left)} otherwise ${print(node.right)}`;
  return {
    at: node,
    message: '“or” asks yes or no. What stands where something is blank is said by “otherwise”.',
    repair: { label: 'Write otherwise', text },
  };
}

/** Texts that are added with “+”. */
export function joinMeant(node: Binary): SaidAt {
  const text = `${print(node.left)} & ${print(node.right)}`;
  return {
    at: node,
    message: 'Texts are joined with “&”; “+” adds numbers.',
    repair: { label: 'Join them with &', text },
  };
}

/** A comparison with what other languages call nothing, or with a word that lacks its quotes; null where it is neither. */
export function bareWord(node: Binary, scope: Scope, typeOf: (node: Node) => Shape): SaidAt | null {
  const { left, right, op } = node;
  if (right.type !== 'name' || (op !== '=' && op !== '!=') || scope.find(right.name)) return null;
  const type = typeOf(left);
  if (isNothing(right.name)) {
    const text = `${print(left)} is ${op === '=' ? 'empty' : 'filled'}`;
    return {
      at: node,
      message: 'Whether something is blank is asked by “is empty”.',
      repair: { label: `Write ${text}`, text },
    };
  }
  if (type.kind !== 'text') return null;
  const text = quote(right.name);
  return {
    at: right,
    message: `A text stands in quotes: ${text}.`,
    repair: { label: `Write ${text}`, text },
  };
}
