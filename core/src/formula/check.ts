import { closest } from 'fastest-levenshtein';
import {
  ANY,
  BOOLEAN,
  DATE,
  fieldNamed,
  kindName,
  memberShape,
  NUMBER,
  TEXT,
  type Field,
  type Shape,
} from '../shape';
import type { Node, Span } from './ast';
import { allFunctions, functionNamed } from './functions';
import type { CheckOptions, CheckResult, Finding, ScopeFrame, Use } from './finding';
import type { FormulaFunction } from './functions/define';
import { isOne, listProblem, nameRepair, namesOf, neverHolds } from './checkRules';
import { numberLike } from './number';
import { print } from './print';

/** What a designer reads of one formula; past it, something else is wrong. */
const MAX_FINDINGS = 50;

/** A type together with the field it was read from, if it is a plain path. */
interface Typed {
  type: Shape;
  field?: Field;
}

/** Types a formula against the shape of the data, and finds what a designer should know. */
export function check(node: Node, shape: Shape, options: CheckOptions = {}): CheckResult {
  const checker = new Checker(
    shape,
    [...(options.frames ?? [])],
    options.noun ?? 'people',
    options.filled,
  );
  const { type } = checker.type(node);
  checker.use(node, type, options.use ?? 'value');
  return { type, findings: checker.findings };
}

class Checker {
  readonly findings: Finding[] = [];

  constructor(
    private readonly root: Shape,
    private readonly frames: ScopeFrame[],
    private readonly noun: string,
    private readonly filled: ReadonlySet<string> = new Set(),
  ) {}

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

  use(node: Node, type: Shape, use: Use): void {
    const { kind } = type;
    if (use === 'condition' && kind !== 'boolean' && kind !== 'any') {
      this.find('error', node, `A condition is yes or no; this is a ${kindName(type)}.`, {
        label: 'Ask whether it is filled',
        text: `${node.type === 'binary' ? `(${print(node)})` : print(node)} is filled`,
      });
    }
    if (use === 'list' && kind !== 'list' && kind !== 'record' && kind !== 'any') {
      this.find('error', node, `A loop walks a list; this is a ${kindName(type)}.`);
    }
    if (use === 'tag') {
      if (kind === 'record')
        this.find('warning', node, 'This prints nothing: choose one of its fields.');
      this.blanks(node);
    }
  }

  /** A tag whose field is blank for some and that has no fallback. */
  private blanks(node: Node): void {
    let path = node;
    while (path.type === 'call' && path.args[0] && path.name !== 'if' && path.name !== 'one_of') {
      if (functionNamed(path.name)?.group === 'lists') return;
      path = path.args[0];
    }
    if (path.type !== 'field' && path.type !== 'name') return;
    if (this.filled.has(print(path))) return;
    const before = this.findings.length;
    const { field } = this.type(path);
    this.findings.length = before;
    if (!field || field.filled >= field.of || field.of === 0) return;
    const figure = (n: number) => n.toLocaleString('en-GB');
    this.find(
      'warning',
      node,
      `“${print(path)}” is blank for ${figure(field.of - field.filled)} of ${figure(field.of)} ${this.ofWhat(path)}: say what stands there otherwise.`,
      nameRepair(node, path),
    );
  }

  /** Whom a field is counted over: the members of the loop that it is read from, or everyone. */
  private ofWhat(path: Node): string {
    let root = path;
    while (root.type === 'field') root = root.of;
    const { name } = root as { name?: string };
    const member = this.frames.some(
      ({ as, shape }) =>
        as === name || (name !== undefined && fieldNamed(shape, name) !== undefined),
    );
    return member ? 'in the list' : this.noun;
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
      case 'index': {
        const { type } = this.type(node.of);
        this.type(node.index);
        if (type.kind === 'record' && node.index.type === 'text') {
          const field = fieldNamed(type, node.index.value);
          return field ? { type: field.shape, field } : { type: ANY };
        }
        return { type: type.kind === 'list' ? type.of : ANY };
      }
      case 'where': {
        const { type } = this.type(node.of);
        if (!isOne(type, 'list', 'record'))
          this.find('error', node.of, `“where” filters a list; this is a ${kindName(type)}.`);
        const test = this.inside(memberShape(type), null, () => this.type(node.test).type);
        if (!isOne(test, 'boolean'))
          this.find(
            'error',
            node.test,
            `This condition is not yes or no, but a ${kindName(test)}.`,
          );
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

  private inside<T>(shape: Shape, as: string | null, work: () => T): T {
    this.frames.push({ shape, as });
    const result = work();
    this.frames.pop();
    return result;
  }

  private name(node: Node & { type: 'name' }): Typed {
    const known: string[] = [];
    for (const frame of [...this.frames].reverse()) {
      if (frame.as === node.name || node.name === 'it') return { type: frame.shape };
      const field = fieldNamed(frame.shape, node.name);
      if (field) return { type: field.shape, field };
      if (frame.as) known.push(frame.as);
      if (frame.shape.kind === 'any') return { type: ANY };
      known.push(...namesOf(frame.shape));
    }
    const field = fieldNamed(this.root, node.name);
    if (field) return { type: field.shape, field };
    if (node.name === 'record') return { type: this.root };
    if (this.root.kind === 'record')
      this.unknown(node, node.name, [...known, ...namesOf(this.root)], (name) => name);
    return { type: ANY };
  }

  private field(node: Node & { type: 'field' }): Typed {
    const { type } = this.type(node.of);
    const from = type.kind === 'list' ? type.of : type;
    if (from.kind === 'any') return { type: ANY };
    if (from.kind !== 'record') {
      this.find('error', node, `“${print(node.of)}” is a ${kindName(from)} and has no fields.`);
      return { type: ANY };
    }
    const field = fieldNamed(from, node.name);
    if (!field) {
      this.unknown(node, node.name, namesOf(from), (name) => `${print(node.of)}.${name}`);
      return { type: ANY };
    }
    return type.kind === 'list'
      ? { type: { kind: 'list', of: field.shape } }
      : { type: field.shape, field };
  }

  private unknown(at: Node, name: string, known: string[], whole: (name: string) => string): void {
    const isLooked = known.length > 0 && this.findings.length < MAX_FINDINGS;
    const nearest = isLooked ? closest(name, known) : undefined;
    this.find(
      'error',
      at,
      nearest
        ? `Nothing is named “${name}” here. The nearest is “${nearest}”.`
        : `Nothing is named “${name}” here.`,
      nearest ? { label: `Use ${nearest}`, text: whole(nearest) } : undefined,
    );
  }

  private number(node: Node): void {
    this.wantNumber(node, this.type(node).type);
  }

  private wantNumber(node: Node, type: Shape): void {
    const literal = node.type === 'text' && numberLike(node.value) === undefined;
    if (literal || !isOne(type, 'number', 'text'))
      this.find('error', node, `A number is needed here; this is a ${kindName(type)}.`);
  }

  private boolean(node: Node): void {
    const { type } = this.type(node);
    if (!isOne(type, 'boolean'))
      this.find('error', node, `Yes or no is needed here; this is a ${kindName(type)}.`, {
        label: 'Ask whether it is filled',
        text: `(${print(node)} is filled)`,
      });
  }

  private binary(node: Node & { type: 'binary' }): Shape {
    switch (node.op) {
      case 'and':
      case 'or':
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
    this.number(node.left);
    this.number(node.right);
    return NUMBER;
  }

  private comparison(node: Node & { type: 'binary' }): Shape {
    const left = this.type(node.left).type;
    const right = this.type(node.right).type;
    const problem =
      node.op === 'in' || node.op === 'not in'
        ? listProblem(right)
        : node.op === 'contains' && left.kind !== 'text'
          ? listProblem(left)
          : neverHolds(node, left, right);
    if (problem) this.find('error', node, problem);
    return BOOLEAN;
  }

  private call(node: Node & { type: 'call' }): Shape {
    const known = functionNamed(node.name);
    if (!known) {
      const name = closest(
        node.name,
        allFunctions().map((f) => f.name),
      );
      const args = node.args.map(print).join(', ');
      this.find('error', node, `There is no function “${node.name}”. The nearest is “${name}”.`, {
        label: `Use ${name}`,
        text: `${name}(${args})`,
      });
      node.args.forEach((arg) => this.type(arg));
      return ANY;
    }
    if (node.args.length < known.least || node.args.length > known.most)
      this.find('error', node, `“${node.name}” is written ${known.usage}.`);
    return this.callType(node, known);
  }

  private callType(node: Node & { type: 'call' }, known: FormulaFunction): Shape {
    const list = node.args[0] ? this.type(node.args[0]).type : ANY;
    const rest = node.args
      .slice(1)
      .map((arg, i) =>
        known.member === i + 1
          ? this.inside(memberShape(list), null, () => this.type(arg).type)
          : this.type(arg).type,
      );
    if (known.group === 'lists' && !isOne(list, 'list', 'record'))
      this.find(
        'error',
        node.args[0] ?? node,
        `“${node.name}” needs a list; this is a ${kindName(list)}.`,
      );
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
        return node.args.length > 1 ? list : memberShape(list);
      case 'any':
        if (node.name === 'if' && rest[0]?.kind === (rest[1] ?? rest[0])?.kind)
          return rest[0] ?? ANY;
        return (node.name === 'min' || node.name === 'max') && rest[0] ? rest[0] : ANY;
    }
  }
}
