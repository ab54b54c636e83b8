import { print, quote, type Node } from '../formula';

/** What kinds of field a comparison is for. */
export type ClauseKind = 'text' | 'number' | 'boolean' | 'date' | 'list' | 'any';
/** What a comparison wants beside the field. */
export type Wants = 'nothing' | 'text' | 'texts' | 'number' | 'days' | 'date';

/** One way to compare a field: its words, and how a formula says it. Adding one touches this list alone. */
export interface Comparison {
  id: string;
  /** Between the field and the value: `is at least`. */
  words: string;
  /** After the value: `days ago`. */
  after?: string;
  kinds: readonly ClauseKind[];
  wants: Wants;
  /** The formula, of a field and values that are complete. */
  write(field: string, values: readonly string[]): string;
  /** The field and the values of a formula that says this; null where it says something else. */
  read(node: Node): { field: Node; values: string[] } | null;
}

type Operator = (Node & { type: 'binary' })['op'];

/** What can be the field of a clause: a path, how many a list has, or how long a text is. */
export function isField(node: Node): boolean {
  switch (node.type) {
    case 'name':
      return true;
    case 'field':
      return isField(node.of);
    case 'index':
      return isField(node.of) && node.index.type === 'text';
    case 'call':
      return (
        (node.name === 'count' || node.name === 'length') &&
        node.args.length === 1 &&
        isField(node.args[0] as Node)
      );
    default:
      return false;
  }
}

const TEXTUAL: readonly ClauseKind[] = ['text', 'any'];
const NUMERIC: readonly ClauseKind[] = ['number', 'any'];

const literal: Record<'text' | 'number', (node: Node) => string | null> = {
  text: (node) => (node.type === 'text' ? node.value : null),
  number(node) {
    if (node.type === 'number') return print(node);
    return node.type === 'negate' && node.of.type === 'number' ? `-${print(node.of)}` : null;
  },
};
const writeLiteral = { text: quote, number: (value: string) => value };

/** `field op value`. */
function binary(
  id: string,
  words: string,
  op: Operator,
  of: 'text' | 'number',
  kinds: readonly ClauseKind[],
): Comparison {
  return {
    ...{ id, words, kinds, wants: of },
    write: (field, [value = '']) => `${field} ${op} ${writeLiteral[of](value)}`,
    read(node) {
      if (node.type !== 'binary' || node.op !== op || !isField(node.left)) return null;
      const value = literal[of](node.right);
      return value === null ? null : { field: node.left, values: [value] };
    },
  };
}

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** `field op "2026-01-31"`. */
function toDay(id: string, words: string, op: Operator): Comparison {
  return {
    ...{ id, words, kinds: ['date'], wants: 'date' },
    write: (field, [value = '']) => `${field} ${op} ${quote(value)}`,
    read(node) {
      if (node.type !== 'binary' || node.op !== op || !isField(node.left)) return null;
      const { right } = node;
      if (right.type !== 'text' || !DAY.test(right.value)) return null;
      return { field: node.left, values: [right.value] };
    },
  };
}

/** `field op add_days(today, n)`, with days counted back or on from today. */
function fromToday(
  id: string,
  words: string,
  after: string,
  op: Operator,
  sign: '' | '-',
): Comparison {
  return {
    ...{ id, words, after, kinds: ['date'], wants: 'days' },
    write: (field, [days = '']) => `${field} ${op} add_days(today, ${sign}${days})`,
    read(node) {
      if (node.type !== 'binary' || node.op !== op || !isField(node.left)) return null;
      const { right } = node;
      if (right.type !== 'call' || right.name !== 'add_days') return null;
      const [day, days] = right.args;
      if (day?.type !== 'name' || day.name !== 'today' || !days) return null;
      const count = sign === '-' ? (days.type === 'negate' ? days.of : null) : days;
      return count?.type === 'number' ? { field: node.left, values: [print(count)] } : null;
    },
  };
}

/**
 * `field > (occasion.last_mail_at otherwise add_days(occasion.entered_at otherwise now, -n))`: what is new to somebody, in a
 * digest. Days count from when they entered, so that an email that is approved late keeps its posts.
 */
function sinceLastMail(id: string, words: string, after: string): Comparison {
  return {
    ...{ id, words, after, kinds: ['date'], wants: 'days' },
    write: (field, [days = '']) =>
      `${field} > (occasion.last_mail_at otherwise add_days(occasion.entered_at otherwise now, -${days}))`,
    read(node) {
      if (node.type !== 'binary' || node.op !== '>' || !isField(node.left)) return null;
      const { right } = node;
      if (right.type !== 'otherwise' || print(right.left) !== 'occasion.last_mail_at') return null;
      const days = /^add_days\((?:occasion\.entered_at otherwise )?now, -(\d{1,6})\)$/.exec(
        print(right.right),
      )?.[1];
      return days === undefined ? null : { field: node.left, values: [days] };
    },
  };
}

/** `field in ["a", "b"]`. */
function among(id: string, words: string, op: 'in' | 'not in'): Comparison {
  return {
    ...{ id, words, kinds: TEXTUAL, wants: 'texts' },
    write: (field, values) => `${field} ${op} [${values.map(quote).join(', ')}]`,
    read(node) {
      if (node.type !== 'binary' || node.op !== op || !isField(node.left)) return null;
      if (node.right.type !== 'list' || node.right.items.length === 0) return null;
      const values = node.right.items.map(literal.text);
      if (values.some((value) => value === null)) return null;
      return { field: node.left, values: values as string[] };
    },
  };
}

const EVERY: readonly ClauseKind[] = ['text', 'number', 'date', 'list', 'any'];
function filled(id: string, words: string, isFilled: boolean): Comparison {
  return {
    ...{ id, words, kinds: EVERY, wants: 'nothing' },
    write: (field) => `${field} is ${isFilled ? 'filled' : 'empty'}`,
    read(node) {
      if (node.type !== 'is' || !isField(node.of)) return null;
      return ((node.what === 'filled') !== node.negated) === isFilled
        ? { field: node.of, values: [] }
        : null;
    },
  };
}

function truth(id: string, words: string, isTrue: boolean): Comparison {
  return {
    ...{ id, words, kinds: ['boolean'], wants: 'nothing' },
    write: (field) => (isTrue ? field : `not ${field}`),
    read(node) {
      const inner = isTrue ? node : node.type === 'not' ? node.of : null;
      return inner && isField(inner) && inner.type !== 'call' ? { field: inner, values: [] } : null;
    },
  };
}

/** Every comparison, those of a kind in the order in which they are offered. */
export const COMPARISONS: readonly Comparison[] = [
  truth('yes', 'is yes', true),
  truth('no', 'is no', false),
  binary('is', 'is', '=', 'text', TEXTUAL),
  binary('is_not', 'is not', '!=', 'text', TEXTUAL),
  among('one_of', 'is one of', 'in'),
  among('none_of', 'is not one of', 'not in'),
  binary('contains', 'contains', 'contains', 'text', ['text', 'list', 'any']),
  binary('starts', 'starts with', 'starts with', 'text', TEXTUAL),
  binary('ends', 'ends with', 'ends with', 'text', TEXTUAL),
  binary('at_least', 'is at least', '>=', 'number', NUMERIC),
  binary('at_most', 'is at most', '<=', 'number', NUMERIC),
  binary('over', 'is more than', '>', 'number', NUMERIC),
  binary('under', 'is under', '<', 'number', NUMERIC),
  binary('equals', 'is exactly', '=', 'number', NUMERIC),
  binary('differs', 'is not', '!=', 'number', NUMERIC),
  fromToday('within_last', 'is within the last', 'days', '>=', '-'),
  fromToday('longer_ago', 'is more than', 'days ago', '<', '-'),
  fromToday('within_next', 'is at most', 'days from now', '<=', ''),
  fromToday('later', 'is more than', 'days from now', '>', ''),
  sinceLastMail('since_mail', 'is since the last email, or within the last', 'days'),
  toDay('before', 'is before', '<'),
  toDay('after', 'is after', '>'),
  toDay('since', 'is on or after', '>='),
  toDay('until', 'is on or before', '<='),
  filled('filled', 'is filled', true),
  filled('blank', 'is blank', false),
];

export function comparisonNamed(id: string): Comparison | undefined {
  return COMPARISONS.find((one) => one.id === id);
}

/** The comparisons that fit a kind of field. */
export function comparisonsFor(kind: ClauseKind): Comparison[] {
  return COMPARISONS.filter(({ kinds }) => kinds.includes(kind));
}

/** Whether the values of a clause are all there, and are what the comparison wants. */
export function isComplete({ wants }: Comparison, values: readonly string[]): boolean {
  const [value = ''] = values;
  switch (wants) {
    case 'nothing':
      return true;
    case 'text':
      return value !== '';
    case 'texts':
      return values.length > 0 && values.every((one) => one !== '');
    case 'number':
      return /^-?\d{1,15}(?:\.\d{1,10})?$/.test(value);
    case 'days':
      return /^\d{1,6}$/.test(value);
    case 'date':
      return DAY.test(value) && !Number.isNaN(Date.parse(value));
  }
}
