import { children, walk, type BinaryOperator, type Node } from './ast';
import { MAX_MEMBERS, MAX_STEPS, MAX_TEXT } from './bounds';
import { Bound, charge, miss, nameReader, spend, type Context, type Evaluate } from './context';
import { functionNamed } from './functions';
import { equals, order } from './compare';
import { daysFrom, movedBy } from './dateMath';
import { blankCosting, memberwise, textOf } from './members';
import { settle } from './number';
import {
  fieldOf,
  fieldReader,
  fold,
  isList,
  isRecord,
  textSteps,
  toList,
  toNumber,
  toValue,
  type Value,
} from './values';

export interface CompileOptions {
  /** Told the value of every node that was evaluated outside of members, for explaining. */
  trace?: (node: Node, value: Value, context: Context) => void;
}

const TOO_MANY = `A list that a formula makes has at most ${MAX_MEMBERS} members.`;

/** Compiles a parsed formula to closures; no code is made from text. */
export function compile(node: Node, options: CompileOptions = {}): Evaluate {
  const inner = compileNode(node, options);
  const { trace } = options;
  if (!trace) return inner;
  return (c) => {
    const value = inner(c);
    trace(node, value, c);
    return value;
  };
}

const SAFE_CALLS = new Set('money number percent round floor ceil abs date if'.split(' '));
const SAFE_OPERATORS = new Set('+ - * / < <= > >= and or'.split(' '));

/** A formula of more nodes than this is counted, whatever it does. */
const FEW_NODES = 60;

/** Whether a formula cannot pass its bounds, whatever the data: paths and plain reckoning. */
function isSafe(node: Node): boolean {
  let nodes = 0;
  walk(node, () => nodes++);
  return nodes <= FEW_NODES && isPlain(node);
}

function isPlain(node: Node): boolean {
  if (node.type === 'call' && !SAFE_CALLS.has(node.name)) return false;
  if (node.type === 'binary' && !SAFE_OPERATORS.has(node.op)) return false;
  if (node.type === 'where' || node.type === 'list') return false;
  return children(node).every(isPlain);
}

/**
 * Compiles a formula into a function that runs it within its bounds. Formulas that cannot pass them
 * are run as they are; most tags of a mail are such.
 */
export function runnable(node: Node): Evaluate {
  const compiled = compile(node);
  return isSafe(node) ? compiled : (context) => evaluate(compiled, context);
}

/** Runs a compiled formula within its bounds. Never throws; past a bound it gives missing. */
export function evaluate(formula: Evaluate, context: Context): Value {
  const allowed = context.total < MAX_STEPS ? context.total : MAX_STEPS;
  context.left = allowed;
  const { frame } = context;
  try {
    return formula(context);
  } catch (error) {
    context.frame = frame;
    if (!(error instanceof Bound) && !(error instanceof RangeError)) throw error;
    const message = error instanceof Bound ? error.message : 'This is too large to work out.';
    context.bound = message;
    return miss(context, { start: 0, end: 0 }, message);
  } finally {
    context.total -= allowed - Math.max(0, context.left);
  }
}

function compileNode(node: Node, options: CompileOptions): Evaluate {
  switch (node.type) {
    case 'number':
    case 'text':
    case 'boolean': {
      const { value } = node;
      return () => value;
    }
    case 'missing':
      return () => undefined;
    case 'name': {
      const { name } = node;
      const read = nameReader(name);
      return (c) => read(c) ?? miss(c, node, `There is no “${name}” here.`);
    }
    case 'list': {
      const items = node.items.map((item) => compile(item, options));
      return (c) => items.map((item) => item(c));
    }
    case 'field': {
      const read = compileField(compile(node.of, options), node);
      return node.of.type === 'name' && !options.trace
        ? memberField(node.of.name, node.name, read)
        : read;
    }
    case 'index':
      return compileIndex(compile(node.of, options), compile(node.index, options), node);
    case 'where':
      return compileWhere(node, options);
    case 'otherwise': {
      const left = compile(node.left, options);
      const right = compile(node.right, options);
      const { start } = node;
      return (c) => {
        const value = left(c);
        if (!blankCosting(value, c)) return value;
        if (c.onFallback !== null) c.onFallback(start);
        return right(c);
      };
    }
    case 'negate': {
      const of = compile(node.of, options);
      return (c) => {
        const value = toNumber(of(c));
        return value === undefined ? miss(c, node.of, 'This is not a number.') : 0 - value;
      };
    }
    case 'not': {
      const of = compile(node.of, options);
      return (c) => of(c) !== true;
    }
    case 'is': {
      const of = compile(node.of, options);
      const blank = (node.what === 'empty') !== node.negated;
      return (c) => blankCosting(of(c), c) === blank;
    }
    case 'binary':
      return compileBinary(node, compile(node.left, options), compile(node.right, options));
    case 'call': {
      const known = functionNamed(node.name);
      if (!known) return (c) => miss(c, node, `There is no function “${node.name}”.`);
      const count = node.args.length;
      if (count < known.least || count > known.most)
        return (c) =>
          miss(c, node, `“${node.name}” is given ${count} values; it takes another number.`);
      // Members are evaluated many times over: only what stands outside of them is traced.
      const args = node.args.map((arg, i) => compile(arg, known.member === i ? {} : options));
      return known.make(args, node);
    }
  }
}

/**
 * The field of a loop's member, `line.name`: found without looking any further when the nearest
 * member has that name. Hot: most tags of a mail are such.
 */
function memberField(as: string, name: string, read: Evaluate): Evaluate {
  const readField = fieldReader(name);
  return (c) => {
    const { frame } = c;
    if (frame === null || frame.as !== as) return read(c);
    const { member } = frame;
    if (!isRecord(member)) return read(c);
    const found = readField(member);
    return found === undefined && c.reasons !== null ? read(c) : found;
  };
}

function compileField(of: Evaluate, node: Node & { type: 'field' }): Evaluate {
  const { name } = node;
  const readField = fieldReader(name);
  return (c) => {
    const value = of(c);
    if (isRecord(value)) {
      return readField(value) ?? miss(c, node, `“${name}” is not filled here.`);
    }
    if (!isList(value)) return miss(c, node, `“${name}” cannot be read: what it is in is missing.`);
    if (value.length > MAX_MEMBERS) return miss(c, node, TOO_MANY);
    // Counted, but not thrown over: a path alone never passes its bound (see isSafe).
    charge(c, value.length);
    const found: Value[] = [];
    for (const member of value) {
      const field = isRecord(member) ? fieldOf(member, name) : undefined;
      if (field !== undefined) found.push(field);
    }
    return found;
  };
}

function limited(list: Value[]): Value[] {
  if (list.length > MAX_MEMBERS) throw new Bound(TOO_MANY);
  return list;
}

function compileIndex(of: Evaluate, index: Evaluate, node: Node & { type: 'index' }): Evaluate {
  return (c) => {
    const value = of(c);
    const key = index(c);
    if (isList(value) && typeof key === 'number') {
      const member = toValue(value[key > 0 ? key - 1 : value.length + key]);
      if (key !== 0 && member !== undefined) return member;
      return miss(c, node, `The list has no member ${key}: it has ${value.length}.`);
    }
    if (isRecord(value) && typeof key === 'string') {
      return fieldOf(value, key) ?? miss(c, node, `“${key}” is not filled here.`);
    }
    return miss(c, node, 'Only a list has numbered members, and only a record named fields.');
  };
}

function compileWhere(node: Node & { type: 'where' }, options: CompileOptions): Evaluate {
  const of = compile(node.of, options);
  const each = memberwise(node.of, node.test, compile(node.test));
  return (c) => {
    const value = of(c);
    const list = value === undefined ? undefined : toList(value);
    if (!list) return miss(c, node.of, 'This is not a list.');
    const kept: Value[] = [];
    each(c, list, (holds, member) => {
      if (holds === true) kept.push(member);
      return undefined;
    });
    return limited(kept);
  };
}

function compileBinary(node: Node & { type: 'binary' }, left: Evaluate, right: Evaluate): Evaluate {
  switch (node.op) {
    case 'or':
      return (c) => left(c) === true || right(c) === true;
    case 'and':
      return (c) => left(c) === true && right(c) === true;
    case '&':
      return (c) => {
        const text = textOf(left(c), c) + textOf(right(c), c);
        if (text.length > MAX_TEXT) throw new Bound(`A text has at most ${MAX_TEXT} characters.`);
        // Joined texts are copied when they are first looked into.
        spend(c, textSteps(text.length));
        return text;
      };
    case '+':
    case '-':
    case '*':
    case '/':
      return (c) => {
        const a = left(c);
        const b = right(c);
        return arithmetic(node.op, a, b, c) ?? miss(c, node, 'This needs two numbers.');
      };
    default:
      return compileComparison(node.op, left, right);
  }
}

function arithmetic(op: BinaryOperator, a: Value, b: Value, c: Context): Value {
  if (a instanceof Date) {
    if (b instanceof Date) return op === '-' ? daysFrom(b, a, c) : undefined;
    const days = toNumber(b);
    if (days === undefined || (op !== '-' && op !== '+')) return undefined;
    return movedBy(a, op === '+' ? days : -days, c);
  }
  const x = toNumber(a);
  const y = toNumber(b);
  if (x === undefined || y === undefined) return undefined;
  switch (op) {
    case '+':
      return settle(x + y);
    case '-':
      return settle(x - y);
    case '*':
      return settle(x * y);
    default:
      return y === 0 ? undefined : settle(x / y);
  }
}

function compileComparison(op: BinaryOperator, left: Evaluate, right: Evaluate): Evaluate {
  const compared = (holds: (difference: number) => boolean): Evaluate => {
    return (c) => {
      const difference = order(left(c), right(c), c);
      return difference !== undefined && holds(difference);
    };
  };
  const folded = (test: (whole: string, part: string) => boolean): Evaluate => {
    return (c) => {
      const whole = left(c);
      const part = right(c);
      if (typeof whole !== 'string' || typeof part !== 'string') return false;
      spend(c, 1 + textSteps(whole.length + part.length));
      return test(fold(whole.trim()), fold(part));
    };
  };
  const member = (needle: Value, list: Value, c: Context) => {
    const members = list === undefined ? undefined : toList(list);
    if (!members) return false;
    spend(c, members.length);
    return members.some((m) => equals(needle, toValue(m), c));
  };
  switch (op) {
    case '=':
      return (c) => equals(left(c), right(c), c);
    case '!=':
      return (c) => !equals(left(c), right(c), c);
    case '<':
      return compared((d) => d < 0);
    case '<=':
      return compared((d) => d <= 0);
    case '>':
      return compared((d) => d > 0);
    case '>=':
      return compared((d) => d >= 0);
    case 'in':
      return (c) => member(left(c), right(c), c);
    case 'not in':
      return (c) => !member(left(c), right(c), c);
    case 'starts with':
      return folded((whole, part) => whole.startsWith(part));
    case 'ends with':
      return folded((whole, part) => whole.endsWith(part));
    default: {
      const inText = folded((whole, part) => whole.includes(part));
      return (c) => {
        const whole = left(c);
        return typeof whole === 'string' ? inText(c) : member(right(c), whole, c);
      };
    }
  }
}
