import { ANY, BOOLEAN, DATE, memberShape, NUMBER, TEXT, type Shape } from '../shape';
import type { Node } from './ast';
import { aKind, askFilled, isOne, type SaidAt } from './checkRules';
import { nearestName } from './checkNames';
import { unknownLetters } from './datePattern';
import { takenBy, type FormulaFunction, type Takes } from './functions/define';
import { DATE_STYLES, isCurrency } from './locale';
import { numberLike } from './number';
import { print, quote } from './print';
import { readDate } from './values';

type Call = Node & { type: 'call' };

const NEEDED: Record<Takes, string> = {
  text: 'a text',
  number: 'a number',
  date: 'a date',
  list: 'a list',
  boolean: 'a condition',
  any: 'a value',
};
const FITS: Record<Takes, readonly Shape['kind'][]> = {
  // Lists are joined, numbers and dates printed.
  text: ['text', 'number', 'boolean', 'date', 'list'],
  number: ['number', 'text'],
  date: ['date', 'text'],
  list: ['list', 'record'],
  boolean: ['boolean'],
  any: [],
};

/** Whether a text that stands in the formula itself can be read as what is needed. */
function isReadable(node: Node, takes: Takes): boolean {
  if (node.type !== 'text') return true;
  if (takes === 'number') return numberLike(node.value) !== undefined;
  return takes !== 'date' || readDate(node.value) !== undefined;
}

function kindProblem(call: Call, takes: Takes, node: Node, type: Shape): SaidAt | null {
  if (takes === 'any') return null;
  if (isOne(type, ...FITS[takes]) && isReadable(node, takes)) return null;
  const given = node.type === 'text' && takes === 'date' ? `“${node.value}”` : aKind(type);
  const message = `“${call.name}” needs ${NEEDED[takes]} here, and there is ${given}.`;
  return { at: node, message, ...(takes === 'boolean' && { repair: askFilled(node) }) };
}

/** Asking for the length of a list, where the number of its members is meant: its letters as text are counted. */
function lengthOfList(call: Call, [given]: readonly Shape[]): SaidAt | null {
  const [list] = call.args;
  if (call.name !== 'length' || !list || given?.kind !== 'list') return null;
  const text = `count(${print(list)})`;
  return {
    ...{ at: call, severity: 'warning' },
    message:
      'This counts letters: the members of the list as they print. How many there are is “count”.',
    repair: { label: `Write ${text}`, text },
  };
}

const use = (text: string) => ({ label: `Use ${text}`, text: quote(text) });

/** What is wrong with a word that a function knows a few of: a style, a direction, a currency. */
function wordProblem({ name, args }: Call): SaidAt | null {
  const literal = (place: number) => {
    const node = args[place];
    return node?.type === 'text' ? { node, value: node.value } : null;
  };
  if (name === 'sort') {
    const given = literal(2);
    if (!given || given.value === 'ascending' || given.value === 'descending') return null;
    const meant = /^d/i.test(given.value) ? 'descending' : 'ascending';
    const message = `The order is “ascending” or “descending”, not “${given.value}”.`;
    return { at: given.node, message, repair: use(meant) };
  }
  if (name === 'money') {
    const given = literal(1);
    if (!given || isCurrency(given.value.toUpperCase())) return null;
    const known = given.value.slice(0, 3).toUpperCase();
    return {
      at: given.node,
      message: `“${given.value}” is no currency: it has three letters, such as EUR.`,
      ...(given.value.length > 2 && isCurrency(known) && { repair: use(known) }),
    };
  }
  if (name === 'date') {
    const given = literal(1);
    if (!given || DATE_STYLES.includes(given.value)) return null;
    const near = nearestName(given.value, DATE_STYLES);
    const unknown = unknownLetters(given.value);
    if (unknown.length === 0 && near === undefined) return null;
    const styles = DATE_STYLES.join(', ');
    if (near !== undefined || /^[a-z]{5,}$/.test(given.value))
      return {
        at: given.node,
        message: `“${given.value}” is no style of a date: ${styles}, or a pattern such as d MMMM yyyy.`,
        ...(near !== undefined && { repair: use(near) }),
      };
    const letters = unknown.map((letter) => `“${letter}”`).join(', ');
    const mended = given.value.replace(/Y/g, 'y').replace(/D/g, 'd');
    return {
      at: given.node,
      message: `The pattern of a date knows no ${letters}: it is made of d, E, M, y, H, h, m, s, a; words stand in single quotes.`,
      ...(unknownLetters(mended).length === 0 && { repair: use(mended) }),
    };
  }
  return null;
}

/** What is wrong with the values that a known function is given. */
export function callProblems(
  call: Call,
  known: FormulaFunction,
  types: readonly Shape[],
): SaidAt[] {
  const wrong = call.args.map((node, place) =>
    kindProblem(call, takenBy(known, place), node, types[place] ?? ANY),
  );
  return [...wrong, wordProblem(call), lengthOfList(call, types)].filter(
    (problem) => problem !== null,
  );
}

/** The type of what a function gives. */
export function typeOfCall(call: Call, known: FormulaFunction, types: readonly Shape[]): Shape {
  const [list = ANY, ...rest] = types;
  switch (known.gives) {
    case 'text':
      return TEXT;
    case 'number':
      return NUMBER;
    case 'boolean':
      return BOOLEAN;
    case 'date':
      return DATE;
    case 'list':
      return { kind: 'list', of: ANY };
    case 'same':
      return list;
    case 'member':
      return call.args.length > 1 ? list : memberShape(list);
    case 'any':
      if (call.name === 'if' && rest[0]?.kind === (rest[1] ?? rest[0])?.kind) return rest[0] ?? ANY;
      if (call.name !== 'min' && call.name !== 'max') return ANY;
      return rest[0] ?? (list.kind === 'list' ? list.of : ANY);
  }
}

/** Whether the second of two values of `join` is what stands between. */
export const isSeparator = ({ name, args }: Call): boolean =>
  name === 'join' && args.length === 2 && args[1]?.type === 'text';
