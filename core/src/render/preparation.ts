import { joined, type AddressPart, type Op, type OpOf, type Program } from '../build/program';
import {
  explain,
  fieldOf,
  isRecord,
  runnable,
  printValue,
  sayCondition,
  type Context,
  type Evaluate,
  type Frame,
  type Node,
  type Value,
} from '../formula';
import { escapeHeader, escapeHtml, isolated, safeAddress } from './escape';
import { MAX_MAIL, MAX_REPEATS, note, put, type Filling, type Run } from './filling';
import { linkTagger } from './linkTags';
import { compileLoop, parsedOrMissing, type Walked } from './loop';
import { safeMarkup } from './safeMarkup';
import { dryRun, isBlankText, isBlankValue } from './dry';
import { wordsIn } from './operations';
import { noteOffers, noteProduct } from './shownProducts';
import { bandOf, type Tally } from './tally';
import { memberName } from './trail';

export interface PrepareOptions {
  trail?: boolean;
  /** Counts what decides. */
  tally?: Tally;
  /** With a tally: only what decides is reckoned, and no HTML is made; `size` says about how much it would be. */
  dry?: boolean;
  /** Tells which products loops showed. */
  products?: boolean;
  /** Without the text part where it is false. */
  text?: boolean;
  /** Bounds of nodes as comments, and values in marked spans: for a canvas, never for a mail. */
  canvas?: boolean;
}

/** A program with its formulas compiled: turns operations into what runs for each recipient. */
export class Preparation {
  private readonly nodes: Node[];
  private readonly compiled: Evaluate[];

  constructor(
    private readonly program: Program,
    private readonly options: PrepareOptions,
  ) {
    this.nodes = program.formulas.map(parsedOrMissing);
    this.compiled = this.nodes.map(runnable);
  }

  /** Joins what the operations give. */
  sequence(ops: readonly Op[]): Run {
    const parts = this.flat(ops).map((op) => (typeof op === 'string' ? op : this.operation(op)));
    if (parts.length === 1 && typeof parts[0] === 'function') return parts[0];
    if (this.options.dry) return dryRun(parts);
    const count = parts.length;
    // The hot loop of filling: nothing is allocated here.
    return (f) => {
      const { out } = f;
      for (let i = 0; i < count; i++) {
        const part = parts[i] as string | Run;
        if (typeof part === 'string') out.push(part);
        else part(f);
      }
    };
  }

  /** Operations without the bounds of fields, which a canvas alone has: filling a mail costs nothing for them. */
  private flat(ops: readonly Op[]): readonly Op[] {
    if (this.options.canvas) return ops;
    const flat: Op[] = [];
    for (const op of ops) {
      if (typeof op !== 'string' && op.op === 'field') flat.push(...this.flat(op.body));
      else flat.push(op);
    }
    return joined(flat);
  }

  /** Whether a condition holds. */
  holds(index: number, context: Context): boolean {
    return this.formula(index)(context) === true;
  }

  private formula(index: number): Evaluate {
    return this.compiled[index] ?? (() => undefined);
  }

  private operation(op: Exclude<Op, string>): Run {
    switch (op.op) {
      case 'value':
        return this.value(op);
      case 'address':
        return this.address(op);
      case 'ifAddress': {
        const address = this.addressText(op.parts);
        const then = this.sequence(op.then);
        const other = this.sequence(op.else);
        const { scheme } = op;
        const { tally } = this.options;
        if (!tally)
          return (f) => (safeAddress(address(f.context), scheme) === null ? other(f) : then(f));
        const at = tally.decision({
          ...{ kind: 'address', node: op.node, path: op.path, formula: this.sourcesOf(op.parts) },
        });
        return (f) => {
          const given = safeAddress(address(f.context), scheme) !== null;
          tally.saw(at, given ? 1 : 2);
          return given ? then(f) : other(f);
        };
      }
      case 'condition':
        return this.condition(op);
      case 'loop':
        return this.loop(op);
      case 'field': {
        const body = this.sequence(op.body);
        return (f) => {
          f.out.push(`<!--field ${op.path}-->`);
          body(f);
          f.out.push('<!--/field-->');
        };
      }
      case 'node': {
        const body = this.sequence(op.body);
        if (!this.options.canvas) return body;
        return (f) => {
          f.out.push(`<!--node ${op.node}-->`);
          body(f);
          f.out.push('<!--/node-->');
        };
      }
    }
  }

  private value(op: OpOf<'value'>): Run {
    const formula = this.formula(op.formula);
    const text = (c: Context) => printValue(formula(c), c);
    const html = this.program.isolates ? isolated : escapeHtml;
    let run: Run;
    if (op.place === 'html' && this.options.canvas)
      run = (f) => put(f, `<span data-value="${op.formula}">${html(text(f.context))}</span>`);
    else if (op.place === 'html' || op.place === 'attribute') {
      const escape = op.place === 'html' ? html : escapeHtml;
      run = (f) => {
        const value = formula(f.context);
        put(f, escape(typeof value === 'string' ? value : printValue(value, f.context)));
      };
    } else if (op.place === 'markup') run = (f) => put(f, safeMarkup(text(f.context)));
    else if (op.place === 'header') run = (f) => put(f, escapeHeader(text(f.context)));
    else run = (f) => put(f, text(f.context));
    const { tally } = this.options;
    if (tally) return this.tallied(op, formula, tally);
    // The envelope stands in the page's head as well; its trail is told once, for the headers.
    const again = op.node === '' && op.place === 'attribute';
    if (!this.options.trail || op.place === 'plain' || again) return run;
    const node = this.nodes[op.formula];
    return (f) => {
      this.noteValue(op, node, f);
      run(f);
    };
  }

  /** Says whether a value was given, blank or a fallback. */
  private tallied(op: OpOf<'value'>, formula: Evaluate, tally: Tally): Run {
    const { node, path, place } = op;
    const source = this.program.formulas[op.formula] ?? '';
    const at = tally.decision({ kind: 'value', node, path, formula: source });
    const html = this.program.isolates ? isolated : escapeHtml;
    const escape = {
      html,
      attribute: escapeHtml,
      markup: safeMarkup,
      header: escapeHeader,
      plain: null,
    }[place];
    if (this.options.dry && place !== 'header')
      return (f) => {
        tally.fellBack = false;
        const value = formula(f.context);
        const isBlank = isBlankValue(value, f.context);
        tally.saw(at, isBlank ? 2 : tally.fellBack ? 4 : 1);
        tally.digest?.put(value);
        f.size += typeof value === 'string' ? value.length : 8;
      };
    return (f) => {
      tally.fellBack = false;
      const text = printValue(formula(f.context), f.context);
      tally.saw(at, isBlankText(text) ? 2 : tally.fellBack ? 4 : 1);
      tally.digest?.put(text);
      put(f, escape ? escape(text) : text);
    };
  }

  /** The formulas of an address, as they are told. */
  private sourcesOf(parts: readonly AddressPart[]): string {
    return parts
      .map((part) =>
        typeof part === 'string' ? part : `{{ ${this.program.formulas[part] ?? ''} }}`,
      )
      .join('');
  }

  private noteValue(op: OpOf<'value'>, node: Node | undefined, f: Filling): void {
    if (!node) return;
    const source = this.program.formulas[op.formula] ?? '';
    let fellBack = false;
    const context = { ...f.context, onFallback: () => (fellBack = true) };
    const why = explain(node, source, context);
    const text = printValue(this.formula(op.formula)(context), context);
    note(f, {
      is: 'value',
      node: op.node,
      path: op.path,
      formula: source,
      text,
      fallback: fellBack,
      why,
    });
  }

  private addressText(parts: AddressPart[]): (context: Context) => string {
    const pieces = parts.map((part) => (typeof part === 'string' ? part : this.formula(part)));
    const [only] = pieces;
    // Most addresses are one formula.
    if (pieces.length === 1 && typeof only === 'function') return (c) => printValue(only(c), c);
    return (c) => {
      let out = '';
      for (const piece of pieces)
        out += typeof piece === 'string' ? piece : printValue(piece(c), c);
      return out;
    };
  }

  private address(op: OpOf<'address'>): Run {
    const text = this.addressText(op.parts);
    const { scheme, place } = op;
    const { tally, dry } = this.options;
    const at =
      tally?.decision({
        ...{ kind: 'address', node: op.node, path: op.path, formula: this.sourcesOf(op.parts) },
      }) ?? 0;
    const tags = scheme === 'link' ? this.program.linkTags : undefined;
    const tag =
      tags &&
      linkTagger(
        tags.map(({ parameter, parts }) => ({ parameter, text: this.addressText(parts) })),
      );
    return (f) => {
      const safe = safeAddress(text(f.context), scheme) ?? '';
      const address = tag && safe !== '' ? tag(safe, f) : safe;
      if (tally?.onAddress) tally.onAddress(at, address);
      tally?.digest?.put(address);
      if (dry) f.size += address.length;
      else put(f, place === 'html' ? escapeHtml(address) : address);
    };
  }

  private condition(op: OpOf<'condition'>): Run {
    const formula = this.formula(op.formula);
    const then = this.sequence(op.then);
    const other = this.sequence(op.else);
    const { tally } = this.options;
    if (tally) {
      const { node, path } = op;
      const source = this.program.formulas[op.formula] ?? '';
      const at = tally.decision({ kind: 'condition', node, path, formula: source });
      return (f) => {
        const held = formula(f.context) === true;
        tally.saw(at, held ? 1 : 2);
        return held ? then(f) : other(f);
      };
    }
    if (!this.options.trail) return (f) => (formula(f.context) === true ? then(f) : other(f));
    const node = this.nodes[op.formula];
    const source = this.program.formulas[op.formula] ?? '';
    return (f) => {
      const held = formula(f.context) === true;
      if (f.trail && node) {
        const why = explain(node, source, f.context);
        const said = sayCondition(node, held, f.context);
        const { node: id, path } = op;
        note(f, { is: 'condition', node: id, path, formula: source, held, said, why });
      }
      return held ? then(f) : other(f);
    };
  }

  private loop(op: OpOf<'loop'>): Run {
    const walk = compileLoop(op.loop, this.program.formulas);
    const body = this.sequence(op.body);
    const bodyLength = wordsIn(op.body);
    const { grid } = op;
    const { as } = op.loop;
    const { tally, dry } = this.options;
    const at =
      tally?.decision({
        ...{ kind: 'list', node: op.node, path: op.path },
        formula: this.program.formulas[op.loop.list] ?? '',
      }) ?? 0;
    const picked = tally && this.pickSteps(op, tally);
    const isOffer = /\b(?:catalog|picks)\b/.test(this.program.formulas[op.loop.list] ?? '');
    return (f) => {
      const walked = walk(f.context, f.products ?? undefined);
      if (tally) tally.saw(at, bandOf(walked.shown.length));
      picked?.(walked.shown);
      if (f.trail) this.noteLoop(op, walked, f);
      const { context } = f;
      const outer = context.frame;
      const { shown, currency } = walked;
      const frame: Frame = {
        member: undefined,
        as,
        currency,
        position: 0,
        count: shown.length,
        parent: outer,
      };
      context.frame = frame;
      const { out } = f;
      if (tally && f.products && isOffer) noteOffers(tally, f.products, shown);
      let i = 0;
      for (; i < shown.length; i++) {
        if (++f.repeats > MAX_REPEATS || f.length > MAX_MAIL) break;
        frame.member = shown[i];
        if (f.products) noteProduct(f.products, shown[i]);
        frame.position = i + 1;
        f.length += bodyLength;
        if (grid && !dry && i % grid.columns === 0) out.push(grid.open);
        body(f);
        if (grid && !dry && i % grid.columns === grid.columns - 1) out.push(grid.close);
      }
      context.frame = outer;
      if (grid && !dry && i % grid.columns !== 0)
        out.push(grid.blank.repeat(grid.columns - (i % grid.columns)), grid.close);
    };
  }

  /** Says which steps of a recommendation rule chose what a list shows. */
  private pickSteps(
    op: OpOf<'loop'>,
    tally: Tally,
  ): ((shown: readonly Value[]) => void) | undefined {
    const formula = this.program.formulas[op.loop.list] ?? '';
    if (!/\bpicks\b/.test(formula)) return undefined;
    const at = tally.decision({ kind: 'picks', node: op.node, path: op.path, formula });
    return (shown) => {
      for (const member of shown) {
        const step = isRecord(member) ? fieldOf(member, 'step') : undefined;
        if (typeof step === 'number') tally.saw(at, 1 << Math.min(4, Math.max(0, step)));
      }
    };
  }

  private noteLoop(op: OpOf<'loop'>, walked: Walked, f: Filling): void {
    const shown = new Set<unknown>(walked.shown);
    const list = this.program.formulas[op.loop.list] ?? '';
    const where = op.loop.where === undefined ? '' : (this.program.formulas[op.loop.where] ?? '');
    note(f, {
      is: 'loop',
      node: op.node,
      path: op.path,
      formula: list,
      as: op.loop.as,
      before: f.lengths?.[list] ?? walked.before.length,
      kept: f.lengths?.[`${list} where ${where}`] ?? walked.kept,
      shown: walked.shown.length,
      members: walked.before
        .slice(0, 12)
        .map((member, i) => ({ name: memberName(member as Value, i), shown: shown.has(member) })),
    });
  }
}
