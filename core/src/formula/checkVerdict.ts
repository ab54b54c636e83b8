import { children, walk, type Node } from './ast';
import { compile, evaluate } from './compile';
import { newContext } from './context';
import type { Finding } from './finding';
import { localeOf } from './locale';
import { print } from './print';
import { readDate, type Value } from './values';

/** What stands for the one thing that a condition asks about, while it is tried. */
const SUBJECT = 'subject';
const DAY_MS = 86_400_000;
/** A condition that compares with more than so many values is not tried. */
const MOST_VALUES = 20;
const LOCALE = localeOf(['en'], ['UTC']);
const LOGIC: readonly string[] = ['and', 'or'];
const PART_OF_TEXT: readonly string[] = ['contains', 'starts with', 'ends with'];

const isLiteral = (node: Node): boolean =>
  node.type === 'number' ||
  node.type === 'text' ||
  node.type === 'boolean' ||
  node.type === 'missing' ||
  (node.type === 'negate' && isLiteral(node.of)) ||
  (node.type === 'list' && node.items.every(isLiteral));

/** A field, or how many members a list has. */
function isSubject(node: Node): boolean {
  if (node.type === 'name') return true;
  if (node.type === 'field') return isSubject(node.of);
  if (node.type === 'index') return isSubject(node.of) && isLiteral(node.index);
  return isCount(node);
}

function isCount(node: Node): boolean {
  if (node.type !== 'call' || (node.name !== 'count' && node.name !== 'length')) return false;
  const [of, ...rest] = node.args;
  return of !== undefined && rest.length === 0 && isSubject(of);
}

/** A field with what stands for its blank. */
const isValue = (node: Node): boolean =>
  isSubject(node) ||
  isLiteral(node) ||
  (node.type === 'otherwise' && isSubject(node.left) && isLiteral(node.right));

/** Whether a condition is made of comparisons with written values alone, so that trying a few values decides it. */
function isTried(node: Node): boolean {
  if (node.type === 'not') return isTried(node.of);
  if (node.type === 'is') return isValue(node.of);
  if (node.type !== 'binary') return node.type === 'boolean' || isSubject(node);
  if (LOGIC.includes(node.op)) return isTried(node.left) && isTried(node.right);
  return !['+', '-', '*', '/', '&'].includes(node.op) && isValue(node.left) && isValue(node.right);
}

/** What a condition asks about, as it prints, and the values that it compares with. */
function readings(node: Node): { subjects: Map<string, Node>; values: Node[]; parts: number } {
  const subjects = new Map<string, Node>();
  const values: Node[] = [];
  let parts = 0;
  const look = (at: Node): void => {
    if (at.type === 'binary' && PART_OF_TEXT.includes(at.op)) parts++;
    if (isSubject(at)) subjects.set(print(at), at);
    else if (at.type === 'number' || at.type === 'text') values.push(at);
    else children(at).forEach(look);
  };
  look(node);
  return { subjects, values, parts };
}

/** Values on each side of those that are written, so that every comparison comes out either way if it can. */
function candidates(subject: Node | undefined, values: readonly Node[]): Value[] {
  const numbers = values.flatMap((node) =>
    node.type === 'number' ? [node.value, -node.value] : [],
  );
  if (subject && isCount(subject)) {
    const around = numbers.flatMap((n) => [Math.floor(n), Math.ceil(n), n - 1, n + 1]);
    return [0, 1, 2, ...around.filter((n) => Number.isInteger(n) && n >= 0)];
  }
  const texts = values.flatMap((node) => (node.type === 'text' ? [node.value] : []));
  const joined = texts.flatMap((a) => texts.map((b) => `${a} ${b}`));
  const dates = texts.flatMap((text) => {
    const date = readDate(text);
    return date ? [-DAY_MS, 0, DAY_MS].map((by) => new Date(date.getTime() + by)) : [];
  });
  return [
    ...[undefined, true, false, 0, 1, '', 'something else', [], [...texts]],
    ...numbers.flatMap((n) => [n, n - 0.5, n + 0.5]),
    ...texts.flatMap((text) => [text, `${text}~`, `~${text}`, [text]]),
    ...joined,
    ...dates,
  ];
}

/** The same condition with its subject under one name. */
function asked(node: Node, subject: string): Node {
  if (isSubject(node) && print(node) === subject) return { ...node, type: 'name', name: SUBJECT };
  switch (node.type) {
    case 'not':
    case 'is':
      return { ...node, of: asked(node.of, subject) };
    case 'binary':
    case 'otherwise':
      return { ...node, left: asked(node.left, subject), right: asked(node.right, subject) };
    default:
      return node;
  }
}

/** Whether a condition about one thing always holds or never does; null where it can be one or the other. */
function verdict(node: Node): boolean | null {
  if (!isTried(node)) return null;
  const { subjects, values, parts } = readings(node);
  if (subjects.size > 1 || values.length > MOST_VALUES || parts > 2) return null;
  // A field alone is asked, not compared: what it holds is for the data to say.
  const [[name, subject] = []] = subjects;
  const run = compile(name === undefined ? node : asked(node, name));
  let answer: boolean | null = null;
  for (const value of candidates(subject, values)) {
    const held = evaluate(run, newContext({ [SUBJECT]: value }, LOCALE)) === true;
    if (answer !== null && answer !== held) return null;
    answer = held;
  }
  return answer;
}

/** The parts of a chain of the same word: `a and b and c`. */
const chain = (node: Node, op: string): Node[] =>
  node.type === 'binary' && node.op === op
    ? [...chain(node.left, op), ...chain(node.right, op)]
    : [node];

/** What parts of a chain say of the same thing decides the chain: one contradiction ends an `and`. */
function chainVerdict(node: Node & { type: 'binary' }): boolean | null {
  const bySubject = new Map<string, Node>();
  for (const part of chain(node, node.op)) {
    if (!isTried(part)) continue;
    const { subjects } = readings(part);
    if (subjects.size > 1) continue;
    const [subject = ''] = subjects.keys();
    const before = bySubject.get(subject);
    bySubject.set(subject, before ? { ...node, left: before, right: part } : part);
  }
  const decides = node.op === 'or';
  for (const part of bySubject.values()) if (verdict(part) === decides) return decides;
  return null;
}

/** Conditions, and parts of them, that come out the same whatever the data: the outermost of each. */
export function constantFindings(formula: Node, isCondition: boolean): Finding[] {
  const found: Finding[] = [];
  const look = (node: Node): void => {
    const asksCondition =
      (node.type === 'binary' && !['+', '-', '*', '/', '&'].includes(node.op)) ||
      node.type === 'not' ||
      node.type === 'is' ||
      (node === formula && isCondition && node.type === 'boolean');
    const isChain = node.type === 'binary' && LOGIC.includes(node.op);
    const answer = asksCondition ? (verdict(node) ?? (isChain ? chainVerdict(node) : null)) : null;
    if (answer === null) return children(node).forEach(look);
    const { start, end } = node;
    const whole = node === formula && isCondition;
    found.push({
      ...{ severity: 'warning', start, end },
      message: `${whole ? 'This condition' : `“${print(node)}”`} ${
        answer ? 'always holds' : 'never holds'
      }, whatever the data is.`,
    });
  };
  look(formula);
  return found;
}

/** Whether a formula asks nothing of the data. */
export function isConstant(node: Node): boolean {
  let constant = true;
  walk(node, ({ type }) => {
    if (type === 'name' || type === 'call') constant = false;
  });
  return constant;
}

/** Whether a number that stands in the formula comes to nothing: `0`, `2 - 2`. */
export function isZero(node: Node): boolean {
  return isConstant(node) && evaluate(compile(node), newContext({}, LOCALE)) === 0;
}
