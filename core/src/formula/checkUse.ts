import type { Field, Shape } from '../shape';
import type { Node } from './ast';
import { aKind, askFilled, nameRepair } from './checkRules';
import type { Scope } from './checkScope';
import type { CheckOptions, Finding } from './finding';
import { functionNamed } from './functions';
import { print } from './print';

interface Given extends CheckOptions {
  /** The field that a path reads, if it is one. */
  fieldAt: (path: Node) => Field | undefined;
}

/** What is wrong with a formula for what it is used for; null where nothing is. */
export function useProblem(node: Node, type: Shape, scope: Scope, given: Given): Finding | null {
  const { start, end } = node;
  const { kind } = type;
  switch (given.use) {
    case 'condition':
      if (kind === 'boolean' || kind === 'any') return null;
      return {
        ...{ severity: 'error', start, end },
        message: `A condition is yes or no, and this is ${aKind(type)}.`,
        repair: askFilled(node),
      };
    case 'list':
      if (kind === 'list' || kind === 'record' || kind === 'any') return null;
      return {
        ...{ severity: 'error', start, end },
        message: `A loop walks a list, and this is ${aKind(type)}.`,
      };
    case 'tag':
      if (kind !== 'record') return blankTag(node, scope, given);
      return {
        ...{ severity: 'warning', start, end },
        message: 'This prints nothing: choose one of its fields.',
      };
    default:
      return null;
  }
}

/** The path that a tag prints, through the functions around it; null where it is no single field. */
function printedPath(node: Node): (Node & { type: 'field' | 'name' }) | null {
  let path = node;
  while (path.type === 'call' && path.args[0] && path.name !== 'if' && path.name !== 'one_of') {
    if (functionNamed(path.name)?.group === 'lists') return null;
    path = path.args[0];
  }
  return path.type === 'field' || path.type === 'name' ? path : null;
}

/** Whom a field is counted over: the members of the loop that it is read from, or everyone. */
function ofWhat(path: Node, scope: Scope, noun: string): string {
  let root = path;
  while (root.type === 'field') root = root.of;
  return scope.isOfMember((root as { name?: string }).name) ? 'in the list' : noun;
}

const figure = (n: number) => n.toLocaleString('en-GB');

/** A tag whose field is blank for some and that has no fallback. */
function blankTag(
  node: Node,
  scope: Scope,
  { filled, noun = 'people', fieldAt }: Given,
): Finding | null {
  const path = printedPath(node);
  if (!path || filled?.has(print(path))) return null;
  const field = fieldAt(path);
  if (!field || field.filled >= field.of || field.of === 0) return null;
  const blank = `${figure(field.of - field.filled)} of ${figure(field.of)}`;
  const repair = nameRepair(node, path);
  return {
    ...{ severity: 'warning', start: node.start, end: node.end },
    message: `“${print(path)}” is blank for ${blank} ${ofWhat(path, scope, noun)}: add a fallback.`,
    ...(repair && { repair }),
  };
}
