import type { Program } from '../build';
import { constantFindings, parsedFormula, type Fields } from '../formula';
import { pathsRead } from '../check/paths';
import type { PersonData } from '../record';
import {
  bitOf,
  contextFor,
  OUTCOMES,
  prepare,
  Tally,
  type Decision,
  type Outcome,
} from '../render';
import { templateSites, type FormulaSite } from '../site';
import { findNode } from '../template/nodes';
import type { Template } from '../template/schema';
import { reachOf } from '../variant/reach';
import { distance } from './distance';
import { literalsOf } from './literals';
import type { MoveGiven } from './move';
import { movesFor } from './moves';

/** What is to be reached: that a node shows, or that a decision comes out in some way. */
export type Target =
  | { node: string; isElse?: boolean }
  | { decision: Pick<Decision, 'kind' | 'node' | 'path'>; outcome: Outcome };

export interface SolveGiven extends Pick<MoveGiven, 'products' | 'now' | 'currency'> {
  template: Template;
  program: Program;
  /** People to start from; the nearest of them is changed as little as is needed. */
  starts: readonly PersonData[];
  /** The record that formulas read of a person. */
  record: (data: PersonData) => Fields;
}

export type Solved =
  | { ok: true; data: PersonData; changes: string[] }
  /** What it would take, in words. */
  | { ok: false; why: string };

/** So many mails are filled in search of one at most, some seconds. */
const MOST_TRIES = 6_000;
/** So many of the nearest are gone on with, so deep. */
const BEAM = 24;
/** Of them, so many that a change of the same kind brought as near. */
const ALIKE = 3;
const DEPTH = 6;
const SLACK = 0.6;

/** What no change of a person can bring about: it is the same for everybody. */
const SHARED = new Set(['catalog', 'feeds', 'coupon', 'shop', 'today', 'now', 'event', 'occasion']);

interface Need {
  at: number;
  bit: number;
}
interface State {
  data: PersonData;
  far: number;
  changes: string[];
}

/** Judges people by filling the mail for them: the search is led by how far the conditions are, and ends by the mail alone. */
class Judge {
  private readonly tally = new Tally();
  private readonly render;
  private readonly needs: Need[];
  readonly formulas: string[];
  readonly nodes: Set<string>;
  tries = 0;

  constructor(
    private readonly given: SolveGiven,
    target: Target,
  ) {
    this.render = prepare(given.program, { tally: this.tally, text: false });
    const { decisions } = this.tally;
    const reached = reachOf(given.template, decisions);
    const node = 'node' in target ? target.node : target.decision.node;
    const around = reached.find((one) => one.node.id === node)?.needed ?? [];
    const needs = around.map(({ decision, bit }): Need => ({ at: decision, bit }));
    if ('decision' in target) {
      const { kind, path } = target.decision;
      const at = decisions.findIndex(
        (one) => one.kind === kind && one.node === node && one.path === path,
      );
      const isKnown = (OUTCOMES[kind] as readonly string[]).includes(target.outcome);
      if (at >= 0 && isKnown) {
        // The target itself says more of its decision than that it is asked.
        const others = needs.filter((need) => need.at !== at);
        needs.length = 0;
        needs.push(...others, { at, bit: bitOf(kind, target.outcome as never) });
      } else needs.push({ at: -1, bit: 0 });
    }
    this.needs = needs;
    this.formulas = needs.flatMap(({ at }) => decisions[at]?.formula ?? []);
    this.nodes = new Set(needs.flatMap(({ at }) => decisions[at]?.node ?? []).concat(node));
  }

  /** 0 where the mail is as it is wanted, else how far it is. */
  far(data: PersonData): number {
    this.tries++;
    const { now, record } = this.given;
    const whole = record(data);
    this.render(whole, { asOf: now });
    let far = 0;
    for (const { at, bit } of this.needs) {
      if (((this.tally.bits[at] ?? 0) & bit) !== 0) continue;
      far += 1 + this.conditionFar(at, bit, whole);
    }
    return far;
  }

  private conditionFar(at: number, bit: number, record: Fields): number {
    const decision = this.tally.decisions[at];
    if (decision?.kind !== 'condition') return 1;
    const parsed = parsedFormula(decision.formula);
    if (!parsed.ok) return 1;
    const context = contextFor(record, { asOf: this.given.now });
    return distance(parsed.value, context, bit === bitOf('condition', 'held'));
  }
}

/** The sites that what is needed reads: conditions, lists and values of the nodes concerned. */
function sitesOf(template: Template, { nodes, formulas }: Judge): FormulaSite[] {
  const wanted = new Set(formulas);
  return templateSites(template).filter(
    ({ node, source, path }) =>
      nodes.has(node) &&
      (wanted.has(source) ||
        path === 'when' ||
        formulas.some((one) => source.includes(one) || one.includes(source))),
  );
}

/** The paths that lead to no other one: `shop.name` without `shop`. */
const deepest = (paths: ReadonlySet<string>): string[] =>
  [...paths].filter((path) => ![...paths].some((other) => other.startsWith(`${path}.`)));

function failed(paths: ReadonlySet<string>, formulas: readonly string[]): string {
  const isShared = (path: string) => SHARED.has(path.split('.')[0] ?? '');
  if (paths.size > 0 && [...paths].every(isShared))
    return `It would need other shop data (${deepest(paths).slice(0, 3).join(', ')}), which is the same for everybody.`;
  if (formulas.includes('false')) return 'A condition there cannot be read. Fix it first.';
  if (formulas.length === 0) return 'There is no such branch in this template.';
  const constant = formulas.flatMap((formula) => {
    const parsed = parsedFormula(formula);
    return parsed.ok ? constantFindings(parsed.value, true) : [];
  })[0];
  if (constant) return `Nobody can be made for whom this is otherwise. ${constant.message}`;
  return `No recipient could be made for whom this is true: ${formulas.join(' and ')}. Perhaps parts of it exclude each other.`;
}

/**
 * Makes somebody who reaches a branch: best first over changes of the fields that the conditions read, with values taken
 * from the conditions themselves. Bounded; the mail itself is the judge.
 */
export function solve(given: SolveGiven, target: Target): Solved {
  const judge = new Judge(given, target);
  const { template, products, now, currency } = given;
  const sites = sitesOf(template, judge);
  const paths = pathsRead(sites);
  if (judge.formulas.length === 0 && 'node' in target && !findNode(template, target.node))
    return { ok: false, why: failed(paths, []) };
  const sources = sites.map(({ source }) => source).concat(judge.formulas);
  const moves = movesFor({ paths, ...literalsOf(sources), products, now, currency });
  let frontier = given.starts
    .map((data): State => ({ data, far: judge.far(data), changes: [] }))
    .sort((a, b) => a.far - b.far)
    .slice(0, BEAM);
  for (let depth = 0; depth <= DEPTH; depth++) {
    const [best] = frontier;
    if (best?.far === 0) return { ok: true, data: best.data, changes: best.changes };
    const next: State[] = [];
    for (const { data, far, changes } of frontier)
      for (const { words, make } of moves) {
        if (judge.tries >= MOST_TRIES) break;
        const made = make(data);
        const state = { data: made, far: judge.far(made), changes: [...changes, words] };
        if (state.far === 0) return { ok: true, data: made, changes: state.changes };
        // A step back is allowed: what is right by chance may have to be given up.
        if (state.far <= far + SLACK) next.push(state);
      }
    frontier = distinct(next.sort((a, b) => a.far - b.far));
    if (frontier.length === 0 || judge.tries >= MOST_TRIES) break;
  }
  return { ok: false, why: failed(paths, judge.formulas) };
}

/** The nearest, none of them twice. */
function distinct(states: readonly State[]): State[] {
  const seen = new Set<string>();
  const alike = new Map<string, number>();
  const kept: State[] = [];
  for (const state of states) {
    if (kept.length >= BEAM) break;
    const key = JSON.stringify(state.data);
    if (seen.has(key)) continue;
    // Many values of one field come as near: the other fields get their turn.
    const kind = `${state.far.toFixed(3)} ${(state.changes.at(-1) ?? '').replace(/“.*”|\d+/g, '')}`;
    const before = alike.get(kind) ?? 0;
    if (before >= ALIKE) continue;
    alike.set(kind, before + 1);
    seen.add(key);
    kept.push(state);
  }
  return kept;
}
