import { MAX_TEXT } from '../bounds';
import { miss, spend, type Context, type Evaluate } from '../context';
import { memberwise, textOf } from '../members';
import { numberLike, settle } from '../number';
import { sortMembers } from '../sort';
import { fold, isList, readDate, toList, toNumber, toValue, type Value } from '../values';
import { argument, boundedText, type Call, type FormulaFunction, type Gives } from './define';

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
  says: string,
  gives: Gives,
  counts: { least: number; most: number; member?: number },
  make: (args: Evaluate[], call: Call) => (c: Context, members: Members) => Value,
): FormulaFunction {
  return {
    name,
    group: 'lists',
    usage,
    says,
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

function total(numbers: number[]): number | undefined {
  return settle(numbers.reduce((a, b) => settle(a + b) ?? Number.NaN, 0));
}

/** The least or greatest: of dates when all are dates, else of the numbers. */
function extreme(values: Value[], sign: 1 | -1): Value {
  const filled = values.filter((v) => v !== undefined);
  const best = <T extends number | Date>(found: T[]): T | undefined =>
    found.length === 0 ? undefined : found.reduce((a, b) => (sign * (+b - +a) > 0 ? b : a));
  const dates = filled.filter((v) => v instanceof Date);
  return dates.length > 0 && dates.length === filled.length ? best(dates) : best(numbersOf(values));
}

/** Tells whether a key equal to one given before was seen; hashing stands in for `=` pair by pair. */
function seenBefore(c: Context): (key: Value) => boolean {
  const simple = new Set<unknown>();
  const lists: (readonly unknown[])[] = [];
  const has = (...keys: string[]) => keys.some((key) => simple.has(key));
  const see = (...keys: string[]) => keys.forEach((key) => simple.add(key));
  return (key) => {
    spend(c, 1);
    if (typeof key === 'number') {
      if (has(`n${key}`, `tn${key}`)) return true;
      see(`n${key}`);
    } else if (typeof key === 'string') {
      const number = numberLike(key);
      const date = readDate(key)?.getTime();
      const folded = fold(key.trim());
      if (has(`t${folded}`) || (number !== undefined && has(`n${number}`))) return true;
      if (date !== undefined && has(`d${date}`)) return true;
      see(`t${folded}`);
      if (number !== undefined) see(`tn${number}`);
      if (date !== undefined) see(`td${date}`);
    } else if (key instanceof Date) {
      if (has(`d${key.getTime()}`, `td${key.getTime()}`)) return true;
      see(`d${key.getTime()}`);
    } else if (isList(key)) {
      spend(c, lists.length);
      const text = JSON.stringify(key.map((m) => (typeof m === 'string' ? fold(m.trim()) : m)));
      if (has(`l${text}`)) return true;
      see(`l${text}`);
    } else {
      if (simple.has(key)) return true;
      simple.add(key);
    }
    return false;
  };
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
        const whole = Math.floor(n);
        if (name === 'first') return members.slice(0, whole).map(toValue);
        return members.slice(Math.max(0, members.length - whole)).map(toValue);
      };
    },
  );
}

function quantifier(name: 'any' | 'every', says: string): FormulaFunction {
  return ofList(
    name,
    `${name}(list, condition)`,
    says,
    'boolean',
    { least: 2, most: 2, member: 1 },
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
      const sum = total(numbers);
      return numbers.length === 0 || sum === undefined ? undefined : settle(sum / numbers.length);
    };
  }),
  ofList('min', 'min(list, what?)', 'The least.', 'any', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => extreme(values(c, members), -1);
  }),
  ofList('max', 'max(list, what?)', 'The greatest.', 'any', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => extreme(values(c, members), 1);
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
        return sortMembers(members.map(toValue), keys, asked === 'descending', c);
      };
    },
  ),
  ofList('distinct', 'distinct(list, what?)', 'Each once.', 'same', MEMBER, (args, call) => {
    const values = valuesOf(args, call);
    return (c, members) => {
      const seen = seenBefore(c);
      const keys = values(c, members);
      return members.map(toValue).filter((_, i) => !seen(keys[i]));
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
      const values = valuesOf(args, call);
      const separator = args[2];
      return (c, members) => {
        const between = separator ? textOf(separator(c), c) : ', ';
        const pieces = values(c, members)
          .filter((v) => v !== undefined)
          .map((v) => textOf(v, c));
        if (pieces.length * between.length > 2 * MAX_TEXT)
          return miss(c, call, 'The text gets too long.');
        return boundedText(pieces.join(between));
      };
    },
  ),
];
