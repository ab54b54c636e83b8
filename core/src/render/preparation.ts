import { joined, type Op, type OpOf, type Program } from '../build/program';
import {
  explain,
  runnable,
  printValue,
  sayCondition,
  type Context,
  type Evaluate,
  type Node,
} from '../formula';
import { addressSource, addressText } from './addressParts';
import { escapeHeader, escapeHtml, isolated, safeAddress } from './escape';
import { note, put, type Run } from './filling';
import { linkTagger } from './linkTags';
import { parsedOrMissing } from './loop';
import { safeMarkup } from './safeMarkup';
import { dryRun, isBlankText, isBlankValue } from './dry';
import { noteValue } from './notes';
import type { PrepareOptions } from './options';
import { loopOf } from './repeat';
import type { Tally } from './tally';

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
    return this.formulaOf(index)(context) === true;
  }

  private readonly formulaOf = (index: number): Evaluate =>
    this.compiled[index] ?? (() => undefined);

  private operation(op: Exclude<Op, string>): Run {
    switch (op.op) {
      case 'value':
        return this.value(op);
      case 'address':
        return this.address(op);
      case 'ifAddress': {
        const address = addressText(op.parts, this.formulaOf);
        const then = this.sequence(op.then);
        const other = this.sequence(op.else);
        const { scheme } = op;
        const { tally } = this.options;
        if (!tally)
          return (f) => (safeAddress(address(f.context), scheme) === null ? other(f) : then(f));
        const at = tally.decision({
          ...{
            kind: 'address',
            node: op.node,
            path: op.path,
            formula: addressSource(op.parts, this.program.formulas),
          },
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
    const formula = this.formulaOf(op.formula);
    const text = (c: Context) => printValue(formula(c), c);
    const html = this.program.isolates ? isolated : escapeHtml;
    let run: Run;
    if (op.place === 'html' && this.options.canvas)
      // The marks take no room of the mail: what is cut off on a canvas is cut off in the mail.
      run = (f) => {
        f.out.push(`<span data-value="${op.formula}">`);
        put(f, html(text(f.context)), op);
        f.out.push('</span>');
      };
    else if (op.place === 'html' || op.place === 'attribute') {
      const escape = op.place === 'html' ? html : escapeHtml;
      run = (f) => {
        const value = formula(f.context);
        put(f, escape(typeof value === 'string' ? value : printValue(value, f.context)), op);
      };
    } else if (op.place === 'markup') run = (f) => put(f, safeMarkup(text(f.context)), op);
    else if (op.place === 'header') run = (f) => put(f, escapeHeader(text(f.context)), op);
    else run = (f) => put(f, text(f.context), op);
    const { tally } = this.options;
    if (tally) return this.tallied(op, formula, tally);
    // The envelope stands in the page's head as well; its trail is told once, for the headers.
    const again = op.node === '' && op.place === 'attribute';
    if (!this.options.trail || op.place === 'plain' || again) return run;
    const node = this.nodes[op.formula];
    const source = this.program.formulas[op.formula] ?? '';
    return (f) => {
      if (node) noteValue(f, op, { node, source, formula });
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
      put(f, escape ? escape(text) : text, op);
    };
  }

  private address(op: OpOf<'address'>): Run {
    const text = addressText(op.parts, this.formulaOf);
    const { scheme, place } = op;
    const { tally, dry } = this.options;
    const at =
      tally?.decision({
        ...{
          kind: 'address',
          node: op.node,
          path: op.path,
          formula: addressSource(op.parts, this.program.formulas),
        },
      }) ?? 0;
    const tags = scheme === 'link' ? this.program.linkTags : undefined;
    const tag =
      tags &&
      linkTagger(
        tags.map(({ parameter, parts }) => ({
          parameter,
          text: addressText(parts, this.formulaOf),
        })),
      );
    return (f) => {
      const safe = safeAddress(text(f.context), scheme) ?? '';
      const address = tag && safe !== '' ? tag(safe, f) : safe;
      if (tally?.onAddress) tally.onAddress(at, address);
      tally?.digest?.put(address);
      if (dry) f.size += address.length;
      else put(f, place === 'html' ? escapeHtml(address) : address, op);
    };
  }

  private condition(op: OpOf<'condition'>): Run {
    const formula = this.formulaOf(op.formula);
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
    return loopOf(op, this.program, this.options, this.sequence(op.body));
  }
}
