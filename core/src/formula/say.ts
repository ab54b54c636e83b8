import type { BinaryOperator, Node } from './ast';
import { compile, evaluate } from './compile';
import type { Context } from './context';
import { currencyRoots, nearestCurrency } from './currency';
import { printValue } from './members';
import { print } from './print';
import { fieldWords } from '../shape';
import { isList, isRecord, toDate, toNumber, type Value } from './values';

/** Fields that hold an amount of money, by the last part of their names. */
const MONEY = /(?:^|_)(?:total|subtotal|price|discount|shipping|tax|amount|spent)$/;
const LITERAL = new Set<Node['type']>(['number', 'text', 'boolean', 'missing', 'list']);

/** A field in words: `person.first_name` is “first name”, `cart.total` “cart total”. */
export function wordsOf(node: Node): string | null {
  if (node.type === 'name') return fieldWords(node.name);
  if (node.type !== 'field') return null;
  const of = wordsOf(node.of);
  const name = fieldWords(node.name);
  return of === null || of === 'person' || of === 'record' ? name : `${of} ${name}`;
}

const lastName = (node: Node) =>
  node.type === 'field' || node.type === 'name' ? node.name : undefined;

/** Words for a relation, as it is; the second for when it is not so. */
const RELATIONS: Partial<Record<BinaryOperator, [string, string]>> = {
  '=': ['is', 'is not'],
  '!=': ['is not', 'is'],
  '<': ['is under', 'is not under'],
  '<=': ['is at most', 'is over'],
  '>': ['is over', 'is not over'],
  '>=': ['is at least', 'is under'],
  in: ['is one of', 'is not one of'],
  'not in': ['is not one of', 'is one of'],
  contains: ['has', 'has no'],
  'starts with': ['starts with', 'does not start with'],
  'ends with': ['ends with', 'does not end with'],
};

/** The same between dates. */
const inTime = (words: string) =>
  words
    .replace('under', 'before')
    .replace('over', 'after')
    .replace('at least', 'on or after')
    .replace('at most', 'on or before');

const withoutFallback = (node: Node): Node =>
  node.type === 'otherwise' ? withoutFallback(node.left) : node;

class Teller {
  constructor(private readonly context: Context) {}

  private valueOf(node: Node): Value {
    return evaluate(compile(node), this.context);
  }

  /** A value as a designer reads it; `like` is the side that says whether it is money. */
  private value(value: Value, like: Node): string {
    const { context } = this;
    if (value === undefined) return 'missing';
    if (isList(value)) return value.length === 0 ? 'none' : printValue(value, context);
    if (isRecord(value)) return 'there';
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    if (value instanceof Date) return context.locale.date(value, 'medium') ?? '';
    const amount = MONEY.test(lastName(like) ?? '') ? toNumber(value) : undefined;
    const currency = nearestCurrency(context, currencyRoots(like));
    if (amount !== undefined && currency !== undefined)
      return context.locale.money(amount, currency) ?? String(amount);
    if (typeof value === 'number') return context.locale.number(value);
    const date = toDate(value);
    if (date) return context.locale.date(date, 'medium') ?? value;
    return value.trim() === '' ? 'blank' : `“${value}”`;
  }

  /** A side of a comparison: what it is called, with its value; a value alone where it is written out. */
  private side(node: Node, like: Node): string {
    const isLiteral = LITERAL.has(node.type);
    const value = this.value(this.valueOf(node), withoutFallback(isLiteral ? like : node));
    if (isLiteral) return value;
    const read = withoutFallback(node);
    const words = read.type === 'call' ? callWords(read) : wordsOf(read);
    return `${words ?? print(node)} ${value}`;
  }

  private isDate(node: Node): boolean {
    return this.valueOf(node) instanceof Date;
  }

  /** Why a condition held or did not, each part with its value. */
  say(node: Node, held: boolean): string {
    switch (node.type) {
      case 'not':
        return this.say(node.of, !held);
      case 'is': {
        const isFilled = (node.what === 'filled') !== node.negated;
        const words = wordsOf(node.of) ?? print(node.of);
        return `${words} ${isFilled === held ? 'is filled' : 'is blank'}`;
      }
      case 'binary': {
        const { op, left, right } = node;
        if (op === 'and' || op === 'or') return this.joined(node, held);
        const relation = RELATIONS[op];
        if (!relation) break;
        const [first, second] = [this.side(left, right), this.side(right, left)];
        const words = relation[held ? 0 : 1];
        const between = this.isDate(left) || this.isDate(right) ? inTime(words) : words;
        return `${first} ${between} ${second}`;
      }
      case 'field':
      case 'name': {
        const words = wordsOf(node) ?? print(node);
        const value = this.valueOf(node);
        return typeof value === 'boolean'
          ? `${words}: ${value ? 'yes' : 'no'}`
          : `${words} is ${this.value(value, node)}`;
      }
      case 'call': {
        const said = this.ofMembers(node);
        if (said !== null) return said;
        break;
      }
      default:
        break;
    }
    return `${print(node)} ${held ? 'is true' : 'is not true'}`;
  }

  /** For how many members of a list something holds: “category is “Seeds” for none of 3 cart lines”. */
  private ofMembers({ name, args: [list, inside], ...at }: Node & { type: 'call' }): string | null {
    if ((name !== 'any' && name !== 'every') || !list || !inside) return null;
    const called = wordsOf(list);
    const members = this.valueOf(list);
    if (called === null || !isList(members)) return null;
    if (members.length === 0) return `${called}: none`;
    const fitting = this.valueOf({ ...at, type: 'where', of: list, test: inside });
    // Past the bound of a formula nothing is counted.
    if (!isList(fitting)) return null;
    const n = fitting.length;
    const all = members.length;
    const wanted = this.wanted(inside);
    if (all === 1) return `${wanted}${n === 1 ? '' : ' not'} for the only one of ${called}`;
    const figure = (one: number) => one.toLocaleString('en-GB');
    const share =
      n === all ? `all ${figure(all)}` : `${n === 0 ? 'none' : figure(n)} of ${figure(all)}`;
    return `${wanted} for ${share} ${called}`;
  }

  /** A condition on members, which have no one value: “price is over £5.00”. */
  private wanted(node: Node, held = true): string {
    switch (node.type) {
      case 'not':
        return this.wanted(node.of, !held);
      case 'is':
        return `${wordsOf(node.of) ?? print(node.of)} ${
          ((node.what === 'filled') !== node.negated) === held ? 'is filled' : 'is blank'
        }`;
      case 'binary': {
        const { op, left, right } = node;
        if (op === 'and' || op === 'or') {
          const word = (op === 'and') === held ? 'and' : 'or';
          const part = (one: Node) => {
            const isApart = one.type === 'binary' && one.op !== op && /^(?:and|or)$/.test(one.op);
            return isApart ? `(${this.wanted(one, held)})` : this.wanted(one, held);
          };
          return `${part(left)} ${word} ${part(right)}`;
        }
        const relation = RELATIONS[op];
        if (!relation) break;
        // A day that is the same for all members is told: “is after 1 Oct 2026”.
        const side = (one: Node, like: Node) =>
          LITERAL.has(one.type) || this.isDate(one)
            ? this.value(this.valueOf(one), withoutFallback(like))
            : (wordsOf(withoutFallback(one)) ?? print(one));
        const words = relation[held ? 0 : 1];
        const between = this.isDate(left) || this.isDate(right) ? inTime(words) : words;
        return `${side(left, right)} ${between} ${side(right, left)}`;
      }
      case 'field':
      case 'name':
        return `${held ? '' : 'not '}${wordsOf(node) ?? print(node)}`;
      default:
        break;
    }
    return held ? print(node) : `not ${print(node)}`;
  }

  /** Of several parts, those that made it so: all of them, or the ones that failed or held. */
  private joined(node: Node & { type: 'binary' }, held: boolean): string {
    const parts: Node[] = [];
    const gather = (one: Node): void => {
      if (one.type === 'binary' && one.op === node.op) {
        gather(one.left);
        gather(one.right);
      } else parts.push(one);
    };
    gather(node);
    const made = parts.filter((part) => (this.valueOf(part) === true) === held);
    return (made.length > 0 ? made : parts).map((part) => this.say(part, held)).join(' and ');
  }
}

/** `count(cart.lines)` is “count of cart lines”. */
function callWords({ name, args }: Node & { type: 'call' }): string | null {
  const of = args[0] && wordsOf(args[0]);
  return of ? `${name.replaceAll('_', ' ')} of ${of}` : null;
}

/**
 * Why a condition held or did not for one recipient, in words with values: “cart total £3.40 is under
 * £50.00”. Amounts print as money, dates as dates, in the recipient's language.
 */
export function sayCondition(node: Node, held: boolean, context: Context): string {
  return new Teller({ ...context, reasons: null, onFallback: null }).say(node, held);
}
