import { ANY, BOOLEAN, DATE, fieldNamed, memberShape, NUMBER, TEXT, type Shape } from '../shape';
import type { Node, Span } from './ast';
import { callProblems, isSeparator, typeOfCall } from './checkCalls';
import { unknownField, unknownFunction, unknownName } from './checkNames';
import { bareWord, fallbackMeant, joinMeant } from './checkMeant';
import {
  aKind,
  askFilled,
  isOne,
  listProblem,
  neverHolds,
  type Said,
  type SaidAt,
} from './checkRules';
import { arithmeticNonsense, listAsAmount, sumNonsense, unheardValue } from './checkSense';
import { Scope, type Typed } from './checkScope';
import { useProblem } from './checkUse';
import { constantFindings } from './checkVerdict';
import type { CheckOptions, CheckResult, Finding } from './finding';
import { allFunctions, functionNamed } from './functions';
import { numberLike } from './number';
import { print, quote } from './print';

/** What a designer reads of one formula; past it, something else is wrong. */
const MAX_FINDINGS = 50;

/** Types a formula against the shape of the data, and finds what a designer should know. */
export function check(node: Node, shape: Shape, options: CheckOptions = {}): CheckResult {
  const scope = new Scope(shape, options.frames);
  const checker = new Checker(scope);
  const { type } = checker.type(node);
  // The path of a tag is typed once more, for its field: what is wrong with it was told already.
  const fieldAt = (path: Node) => new Checker(scope).type(path).field;
  const wrong = useProblem(node, type, scope, { ...options, fieldAt });
  const findings = [
    ...checker.findings,
    ...(wrong ? [wrong] : []),
    // What is wrong with its kinds is told already: the same place is not told twice.
    ...constantFindings(node, options.use === 'condition').filter(
      ({ start, end }) =>
        !checker.findings.some((found) => found.start >= start && found.end <= end),
    ),
  ];
  return { type, findings: findings.slice(0, MAX_FINDINGS) };
}

class Checker {
  readonly findings: Finding[] = [];

  constructor(private readonly scope: Scope) {}

  private find(
    severity: Finding['severity'],
    at: Span,
    message: string,
    repair?: Finding['repair'],
  ): void {
    if (this.findings.length >= MAX_FINDINGS) return;
    this.findings.push({
      severity,
      start: at.start,
      end: at.end,
      message,
      ...(repair && { repair }),
    });
  }

  type(node: Node): Typed {
    switch (node.type) {
      case 'number':
        return { type: NUMBER };
      case 'text':
        return { type: TEXT };
      case 'boolean':
        return { type: BOOLEAN };
      case 'missing':
        return { type: ANY };
      case 'name':
        return this.name(node);
      case 'list': {
        const types = node.items.map((item) => this.type(item).type);
        const [first = ANY] = types;
        return {
          type: { kind: 'list', of: types.every((t) => t.kind === first.kind) ? first : ANY },
        };
      }
      case 'field':
        return this.field(node);
      case 'index':
        return this.index(node);
      case 'where': {
        const { type } = this.type(node.of);
        if (!isOne(type, 'list', 'record'))
          this.find('error', node.of, `“where” filters a list, and this is ${aKind(type)}.`);
        this.scope.inside(memberShape(type), null, () => this.boolean(node.test));
        return { type: type.kind === 'record' ? { kind: 'list', of: type } : type };
      }
      case 'otherwise': {
        const left = this.type(node.left).type;
        const right = this.type(node.right).type;
        return { type: left.kind === right.kind ? left : ANY };
      }
      case 'negate':
        this.number(node.of);
        return { type: NUMBER };
      case 'not':
        this.boolean(node.of);
        return { type: BOOLEAN };
      case 'is':
        this.type(node.of);
        return { type: BOOLEAN };
      case 'binary':
        return { type: this.binary(node) };
      case 'call':
        return { type: this.call(node) };
    }
  }

  private name(node: Node & { type: 'name' }): Typed {
    const { scope } = this;
    const found = scope.find(node.name);
    if (!found) this.say(node, unknownName(node.name, scope.names(), scope.root));
    return found ?? { type: ANY };
  }

  private field(node: Node & { type: 'field' }): Typed {
    const { type } = this.type(node.of);
    const from = type.kind === 'list' ? type.of : type;
    if (from.kind === 'any') return { type: ANY };
    const written = print(node.of);
    if (from.kind === 'list') {
      this.find(
        'error',
        node,
        `“${written}” is a list in a list: loop over it, or take one with [1], to read “${node.name}”.`,
      );
      return { type: ANY };
    }
    if (from.kind !== 'record') {
      this.find('error', node, `“${written}” is ${aKind(from)} and has no fields.`);
      return { type: ANY };
    }
    const field = fieldNamed(from, node.name);
    if (!field) {
      this.say(
        node,
        unknownField(node.name, from, (name) => `${written}.${name}`),
      );
      return { type: ANY };
    }
    return type.kind === 'list'
      ? { type: { kind: 'list', of: field.shape }, ofMembers: field }
      : { type: field.shape, field };
  }

  private index(node: Node & { type: 'index' }): Typed {
    const { type } = this.type(node.of);
    this.type(node.index);
    const { index } = node;
    if (type.kind === 'record' && index.type === 'text') {
      const field = fieldNamed(type, index.value);
      if (field) return { type: field.shape, field };
      const whole = (name: string) => `${print(node.of)}[${quote(name)}]`;
      this.say(node, unknownField(index.value, type, whole));
      return { type: ANY };
    }
    if (type.kind === 'list' && index.type === 'number' && index.value === 0)
      this.find('error', index, 'Lists count from 1: [1] is the first, [-1] the last.', {
        label: 'Take the first',
        text: '1',
      });
    return { type: type.kind === 'list' ? type.of : ANY };
  }

  private say(at: Node, { severity = 'error', message, repair }: Said): void {
    this.find(severity, at, message, repair);
  }

  private number(node: Node): Typed {
    const typed = this.type(node);
    this.wantNumber(node, typed.type);
    return typed;
  }

  private sense(found: SaidAt | null): boolean {
    if (found) this.say(found.at, found);
    return found !== null;
  }

  private wantNumber(node: Node, type: Shape): void {
    const literal = node.type === 'text' && numberLike(node.value) === undefined;
    if (literal || !isOne(type, 'number', 'text'))
      this.find('error', node, `A number is needed here, and this is ${aKind(type)}.`);
  }

  private boolean(node: Node): void {
    const { type } = this.type(node);
    if (!isOne(type, 'boolean'))
      this.find(
        'error',
        node,
        `Yes or no is needed here, and this is ${aKind(type)}.`,
        askFilled(node),
      );
  }

  private binary(node: Node & { type: 'binary' }): Shape {
    switch (node.op) {
      case 'or':
        if (node.right.type === 'text') {
          const { type } = this.type(node.left);
          this.sense(fallbackMeant(node));
          return type.kind === 'text' ? TEXT : ANY;
        }
        this.boolean(node.left);
        this.boolean(node.right);
        return BOOLEAN;
      case 'and':
        this.boolean(node.left);
        this.boolean(node.right);
        return BOOLEAN;
      case '&':
        this.type(node.left);
        this.type(node.right);
        return TEXT;
      case '+':
      case '-': {
        const left = this.type(node.left).type;
        const right = this.type(node.right).type;
        if (left.kind === 'date') return node.op === '-' && right.kind === 'date' ? NUMBER : DATE;
        if (node.op === '+' && isWords(node.left, left) && isWords(node.right, right)) {
          this.sense(joinMeant(node));
          return TEXT;
        }
        this.wantNumber(node.left, left);
        this.wantNumber(node.right, right);
        return NUMBER;
      }
      case '*':
      case '/':
        break;
      default:
        return this.comparison(node);
    }
    this.sense(arithmeticNonsense(node, this.number(node.left), this.number(node.right)));
    return NUMBER;
  }

  private comparison(node: Node & { type: 'binary' }): Shape {
    if (this.sense(bareWord(node, this.scope, (left) => this.type(left).type))) return BOOLEAN;
    const [leftTyped, rightTyped] = [this.type(node.left), this.type(node.right)];
    const [left, right] = [leftTyped.type, rightTyped.type];
    if (this.sense(listAsAmount(node, leftTyped, rightTyped))) return BOOLEAN;
    const problem =
      node.op === 'in' || node.op === 'not in'
        ? listProblem(right)
        : node.op === 'contains' && left.kind !== 'text'
          ? listProblem(left)
          : neverHolds(node, left, right);
    if (problem) this.find('error', node, problem);
    else this.sense(unheardValue(node, leftTyped, rightTyped));
    return BOOLEAN;
  }

  private call(node: Node & { type: 'call' }): Shape {
    const known = functionNamed(node.name);
    if (!known) {
      const names = allFunctions().map(({ name }) => name);
      this.say(node, unknownFunction(node.name, node.args.map(print), names));
      node.args.forEach((arg) => this.type(arg));
      return ANY;
    }
    if (node.args.length < known.least || node.args.length > known.most)
      this.find('error', node, `“${node.name}” is written ${known.usage}.`);
    const list: Typed = node.args[0] ? this.type(node.args[0]) : { type: ANY };
    const typed = node.args.map((arg, place) => {
      if (place === 0) return list;
      return known.member === place && !isSeparator(node)
        ? this.scope.inside(memberShape(list.type), null, () => this.type(arg))
        : this.type(arg);
    });
    const types = typed.map(({ type }) => type);
    this.sense(sumNonsense(node, typed));
    for (const { at, ...said } of callProblems(node, known, types)) this.say(at, said);
    return typeOfCall(node, known, types);
  }
}

/** Whether something is a text that is no number. */
function isWords(node: Node, type: Shape): boolean {
  return type.kind === 'text' && (node.type !== 'text' || numberLike(node.value) === undefined);
}
