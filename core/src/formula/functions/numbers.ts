import { charge, miss } from '../context';
import { currencyRoots, nearestCurrency } from '../currency';
import type { Locale } from '../locale';
import { roundTo } from '../number';
import { toNumber, type Value } from '../values';
import { argument, type FormulaFunction } from './define';

/** What writing a figure in a locale costs. */
const FORMAT_STEPS = 5;

function ofNumber(
  name: string,
  description: string,
  apply: (x: number) => number,
): FormulaFunction {
  return {
    name,
    group: 'numbers',
    usage: `${name}(number)`,
    description,
    least: 1,
    most: 1,
    gives: 'number',
    make(args, call) {
      const of = argument(args, 0);
      return (c) => {
        const x = toNumber(of(c));
        return x === undefined ? miss(c, call, `There is no number for “${name}”.`) : apply(x) + 0;
      };
    },
  };
}

/** The decimals asked for, undefined when none were, null when they cannot be. */
function decimalsOf(value: Value, given: boolean): number | undefined | null {
  if (!given) return undefined;
  const n = toNumber(value);
  return n === undefined || !Number.isInteger(n) || n < 0 || n > 15 ? null : n;
}

/** A function of a number and, if given, how many decimals. */
function withDecimals(
  name: string,
  description: string,
  gives: 'text' | 'number',
  apply: (x: number, decimals: number | undefined, locale: Locale) => Value,
): FormulaFunction {
  return {
    name,
    group: 'numbers',
    usage: `${name}(number, decimals?)`,
    description,
    least: 1,
    most: 2,
    takes: ['number', 'number'],
    gives,
    make(args, call) {
      const of = argument(args, 0);
      const asked = argument(args, 1);
      return (c) => {
        const x = toNumber(of(c));
        const decimals = decimalsOf(asked(c), args.length > 1);
        if (x === undefined) return miss(c, call, `There is no number for “${name}”.`);
        if (decimals === null) return miss(c, call, 'Decimals are a whole number from 0 to 15.');
        charge(c, FORMAT_STEPS);
        return apply(x, decimals, c.locale);
      };
    },
  };
}

export const NUMBER_FUNCTIONS: FormulaFunction[] = [
  withDecimals('round', 'Rounded, halves away from zero.', 'number', (x, d = 0) => roundTo(x, d)),
  ofNumber('floor', 'The whole number below.', Math.floor),
  ofNumber('ceil', 'The whole number above.', Math.ceil),
  ofNumber('abs', 'Without its sign.', Math.abs),
  withDecimals('number', 'As the recipient writes numbers.', 'text', (x, d, locale) =>
    locale.number(x, d),
  ),
  withDecimals('percent', '0.25 as 25 %, as the recipient writes it.', 'text', (x, d = 0, locale) =>
    locale.percent(x, d),
  ),
  {
    name: 'money',
    group: 'numbers',
    usage: 'money(amount, currency?)',
    description: 'An amount with its currency, as the recipient writes it.',
    least: 1,
    most: 2,
    takes: ['number', 'text'],
    gives: 'text',
    make(args, call) {
      const of = argument(args, 0);
      const asked = argument(args, 1);
      const roots = call.args[0] ? currencyRoots(call.args[0]) : [];
      const given = args.length > 1;
      return (c) => {
        const x = toNumber(of(c));
        if (x === undefined) return miss(c, call, 'There is no amount for “money”.');
        const currency = given ? asked(c) : nearestCurrency(c, roots);
        if (typeof currency !== 'string') return miss(c, call, 'No currency is known here.');
        charge(c, FORMAT_STEPS);
        return c.locale.money(x, currency) ?? miss(c, call, `“${currency}” is no currency code.`);
      };
    },
  },
];
