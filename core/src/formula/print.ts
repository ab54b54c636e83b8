import type { BinaryOperator, Node } from './ast';
import { plainNumber } from './number';

/** How tightly each construct binds; the order of the grammar's rules. */
const LEVEL = {
  or: 1,
  and: 2,
  not: 3,
  comparison: 4,
  join: 5,
  sum: 6,
  term: 7,
  unary: 8,
  fallback: 9,
  where: 10,
  postfix: 11,
} as const;

function levelOf(op: BinaryOperator): number {
  switch (op) {
    case 'or':
      return LEVEL.or;
    case 'and':
      return LEVEL.and;
    case '&':
      return LEVEL.join;
    case '+':
    case '-':
      return LEVEL.sum;
    case '*':
    case '/':
      return LEVEL.term;
    default:
      return LEVEL.comparison;
  }
}

/** A text as it is written in a formula, with its quotes. */
export function quote(text: string): string {
  return `"${text.replace(/[\\"]/g, '\\$&').replace(/\n/g, '\\n')}"`;
}

function binary(node: Node & { type: 'binary' }): [number, string] {
  const level = levelOf(node.op);
  if (level === LEVEL.comparison) {
    const worded = node.left.type === 'text' || node.right.type === 'text';
    const op = !worded ? node.op : node.op === '=' ? 'is' : node.op === '!=' ? 'is not' : node.op;
    return [level, `${at(node.left, LEVEL.join)} ${op} ${at(node.right, LEVEL.join)}`];
  }
  return [level, `${at(node.left, level)} ${node.op} ${at(node.right, level + 1)}`];
}

function write(node: Node): [number, string] {
  switch (node.type) {
    case 'number':
      return [LEVEL.postfix, plainNumber(node.value, true)];
    case 'text':
      return [LEVEL.postfix, quote(node.value)];
    case 'boolean':
      return [LEVEL.postfix, String(node.value)];
    case 'missing':
      return [LEVEL.postfix, 'missing'];
    case 'name':
      return [LEVEL.postfix, node.name];
    case 'list':
      return [LEVEL.postfix, `[${node.items.map(print).join(', ')}]`];
    case 'call':
      return [LEVEL.postfix, `${node.name}(${node.args.map(print).join(', ')})`];
    case 'field':
      return [LEVEL.postfix, `${at(node.of, LEVEL.postfix)}.${node.name}`];
    case 'index':
      return [LEVEL.postfix, `${at(node.of, LEVEL.postfix)}[${print(node.index)}]`];
    case 'where':
      return [LEVEL.where, `${at(node.of, LEVEL.where)} where (${print(node.test)})`];
    case 'otherwise':
      return [
        LEVEL.fallback,
        `${at(node.left, LEVEL.fallback)} otherwise ${at(node.right, LEVEL.where)}`,
      ];
    case 'negate':
      return [LEVEL.unary, `-${at(node.of, LEVEL.unary)}`];
    case 'not':
      return [LEVEL.not, `not ${at(node.of, LEVEL.not)}`];
    case 'is':
      return [
        LEVEL.comparison,
        `${at(node.of, LEVEL.join)} is ${node.negated ? 'not ' : ''}${node.what}`,
      ];
    case 'binary':
      return binary(node);
  }
}

function at(node: Node, least: number): string {
  const [level, text] = write(node);
  return level < least ? `(${text})` : text;
}

/** The canonical text of a formula: one space round operators, parentheses only where needed. */
export function print(node: Node): string {
  return write(node)[1];
}
