import { MAX_MEMBERS, MAX_TEXT } from '../bounds';
import { Bound, miss, spend, type Context, type Evaluate } from '../context';
import { blankCosting, memberwise, textOf } from '../members';
import { neumaier, numberLike, settle } from '../number';
import { equals } from '../compare';
import { sortMembers } from '../sort';
import {
  fold,
  isList,
  isRecord,
  readDate,
  textSteps,
  toList,
  toNumber,
  toValue,
  type Value,
} from '../values';
import {
  argument,
  boundedText,
  type Call,
  type FormulaFunction,
  type Gives,
  type Takes,
} from './define';

type Members = readonly unknown[];

/** The values that a function of a list works on: the members, or the expression for each. */
function valuesOf(args: Evaluate[], call: Call): (c: Context, members: Members) => Value[] {
  const [listNode, inside] = call.args;
  const expression = args[1];
  if (!listNode || !inside || !expression) {
    return (c, members) => {
      spend(c, members.length);
      return members.map(toValue);
    };
  }
  const each = memberwise(listNode, inside, expression);
  return (c, members) => {
    const values: Value[] = [];
    each(c, members, (value) => {
      values.push(value);
      return undefined;
    });
    return values;
  };
}

function ofList(
  name: string,
  usage: string,
  description: string,
  gives: Gives,
  counts: { least: number; most: number; member?: number; takes?: readonly Takes[] },
  make: (args: Evaluate[], call: Call) => (c: Context, members: Members) => Value,
): FormulaFunction {
  return {
    name,
    group: 'lists',
    usage,
    description,
    gives,
    ...counts,
    make(args, call) {
      const of = argument(args, 0);
      const apply = make(args, call);
      return (c) => {
        const members = toList(of(c));
        return members ? apply(c, members) : miss(c, call, `“${name}” needs a list.`);
      };
    },
  };
}

const MEMBER = { least: 1, most: 2, member: 1 };

function numbersOf(values: Value[]): number[] {
  return values.map(toNumber).filter((x) => x !== undefined);
}

/** The sum, rounded once, at the end. */
function total(numbers: number[]): number | undefined {
  return settle(neumaier(numbers));
}

/** The least or greatest: of dates when all are dates, else of the numbers. */
function extreme(values: Value[], sign: 1 | -1, { locale }: Context): Value {
  const filled = values.filter((v) => v !== undefined);
  const at = (found: number | Date) => (typeof found === 'number' ? found : locale.instant(found));
  const best = <T extends number | Date>(found: T[]): T | undefined =>
    found.length === 0 ? undefined : found.reduce((a, b) => (sign * (at(b) - at(a)) > 0 ? b : a));
  const dates = filled.filter((v) => v instanceof Date);
  return dates.length > 0 && dates.length === filled.length ? best(dates) : best(numbersOf(values));
}

/**
 * A text that equal values share, so that only values that share it are compared pair by pair. A text
 * stands for the number or date that it reads as, since it equals those too.
 */
function bucketOf(key: Value, c: Context): string {
  spend(c, 1);
  switch (typeof key) {
    case 'undefined':
      return 'missing';
    case 'number':
      return `number ${key + 0}`;
    case 'boolean':
      return String(key);
    case 'string': {
      spend(c, textSteps(key.length));
      const text = key.trim();
      const number = numberLike(text);
      if (number !== undefined) return `number ${number + 0}`;
      const date = readDate(text);
      return date ? `date ${c.locale.instant(date)}` : `text ${fold(text)}`;
    }
    default:
      if (key instanceof Date) return `date ${c.locale.instant(key)}`;
      if (!isList(key)) return 'record';
      return `[${key.map((member) => bucketOf(toValue(member), c)).join(' ')}]`;
  }
}

/** Tells whether a key equal to one given before was seen. */
function seenBefore(c: Context): (key: Value) => boolean {
  const records = new Set<Value>();
  const buckets = new Map<string, Value[]>();
  return (key) => {
    if (isRecord(key)) {
      // A record equals none but itself.
      spend(c, 1);
      if (records.has(key)) return true;
      records.add(key);
      return false;
    }
    const name = bucketOf(key, c);
    const bucket = buckets.get(name);
    if (!bucket) buckets.set(name, [key]);
    else if (bucket.some((one) => equals(one, key, c))) return true;
    else bucket.push(key);
    return false;
  };
}

/** A part of a list as a list of its own, within the bound of lists that a formula makes. */
function made(c: Context, members: Members, from = 0, to = members.length): Value[] {
  const count = Math.min(to, members.length) - from;
  if (count > MAX_MEMBERS)
    throw new Bound(`A list that a formula makes has at most ${MAX_MEMBERS} members.`);
  spend(c, Math.max(0, count));
  return members.slice(from, to).map(toValue);
}

function end(name: 'first' | 'last'): FormulaFunction {
  return ofList(
    name,
    `${name}(list, n?)`,
    name === 'first' ? 'The first member, or the first n.' : 'The last member, or the last n.',
    'member',
    { least: 1, most: 2 },
    (args, call) => {
      const limit = args[1];
      return (c, members) => {
        if (!limit) return toValue(members.at(name === 'first' ? 0 : -1));
        const n = toNumber(limit(c));
        if (n === undefined || n < 0) return miss(c, call, `“${name}” needs a number of members.`);
        const from = name === 'first' ? 0 : Math.max(0, members.length - Math.floor(n));
        return made(c, members, from, name === 'first' ? Math.floor(n) : members.length);
      };
    },
  );
}

function quantifier(name: 'any' | 'every', description: string): FormulaFunction {
  return ofList(
    name,
    `${name}(list, condition)`,
    description,
    'boolean',
    { least: 2, most: 2, member: 1, takes: ['list', 'boolean'] },
    (args, call) => {
      const [listNode, inside] = call.args;
      const test = args[1];
      if (!listNode || !inside || !test) return () => undefined;
      const each = memberwise(listNode, inside, test);
      const until = name === 'any';
      return (c, members) => {
        let found = false;
        each(c, members, (holds) => {
          found = (holds === true) === until;
          return !found;
        });
        return found === until;
      };
    },
  );
}

export const LIST_FUNCTIONS: FormulaFunction[] = [
  ofList(
    'count',
    'count(list)',
    'How many members.',
    'number',
    { least: 1, most: 1 },
    () => (_, m) => m.length,
  ),
  ofList('sum', 'sum(list, what?)', 'All added up.', 'number', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => total(numbersOf(values(c, members)));
  }),
  ofList('average', 'average(list, what?)', 'The mean.', 'number', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => {
      const numbers = numbersOf(values(c, members));
      return numbers.length === 0 ? undefined : settle(neumaier(numbers) / numbers.length);
    };
  }),
  ofList('min', 'min(list, what?)', 'The least.', 'any', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => extreme(values(c, members), -1, c);
  }),
  ofList('max', 'max(list, what?)', 'The greatest.', 'any', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => extreme(values(c, members), 1, c);
  }),
  end('first'),
  end('last'),
  ofList(
    'sort',
    'sort(list, by, "ascending" or "descending"?)',
    'In order, blanks last.',
    'same',
    { least: 2, most: 3, member: 1 },
    (args, call) => {
      const values = valuesOf(args, call);
      const direction = argument(args, 2);
      return (c, members) => {
        const asked = direction(c);
        if (asked !== undefined && asked !== 'ascending' && asked !== 'descending')
          return miss(c, call, 'The order is "ascending" or "descending".');
        const keys = values(c, members);
        return sortMembers(made(c, members), keys, asked === 'descending', c);
      };
    },
  ),
  ofList('distinct', 'distinct(list, what?)', 'Each once.', 'same', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => {
      const seen = seenBefore(c);
      const keys = values(c, members);
      return made(
        c,
        members.filter((_, i) => !seen(keys[i])),
      );
    };
  }),
  quantifier('any', 'Whether the condition holds for at least one.'),
  quantifier('every', 'Whether the condition holds for all.'),
  ofList(
    'join',
    'join(list, what?, separator?)',
    'The members as one text.',
    'text',
    { least: 1, most: 3, member: 1 },
    (args, call) => {
      // The second of two is what to join, but a text alone is what stands between.
      const isSeparator = call.args.length === 2 && call.args[1]?.type === 'text';
      const values = isSeparator
        ? valuesOf(args.slice(0, 1), { ...call, args: call.args.slice(0, 1) })
        : valuesOf(args, call);
      const separator = isSeparator ? args[1] : args[2];
      return (c, members) => {
        const between = separator ? textOf(separator(c), c) : ', ';
        const pieces = values(c, members)
          .filter((v) => {
            const isFilled = !blankCosting(v, c);
            // Ends here, and not after ten thousand long texts were looked through.
            spend(c, 0);
            return isFilled;
          })
          .map((v) => textOf(v, c));
        const length = pieces.reduce((sum, piece) => sum + piece.length + between.length, 0);
        if (length > 2 * MAX_TEXT) return miss(c, call, 'The text gets too long.');
        spend(c, textSteps(length));
        return boundedText(pieces.join(between));
      };
    },
  ),
];
