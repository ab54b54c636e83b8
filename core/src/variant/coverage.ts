import { OUTCOMES, type Decision, type Outcome } from '../render';
import type { Template } from '../template/schema';
import { bitsOf, type Survey } from './figures';
import { isReached, reachOf, type Reach } from './reach';

/** How many people reach a node. */
export interface NodeCoverage extends Reach {
  node: string;
  isElse: boolean;
}

/** How many people reach each outcome of a decision; for those that it was asked of. */
export interface DecisionCoverage {
  decision: number;
  asked: number;
  outcomes: ({ outcome: Outcome } & Reach)[];
}

export interface Coverage {
  people: number;
  nodes: NodeCoverage[];
  decisions: DecisionCoverage[];
}

function nobody(): Reach {
  return { people: 0, person: null };
}

/** For each node, branch, fallback and list: how many people reach it, and one of them. */
export function coverageOf(template: Template, survey: Survey): Coverage {
  const reached = reachOf(template, survey.decisions);
  const nodes = reached.map(({ node, isElse }) => ({ node: node.id, isElse, ...nobody() }));
  const decisions = survey.decisions.map(({ kind }, decision) => ({
    ...{ decision, asked: 0 },
    outcomes: OUTCOMES[kind].map((outcome) => ({ outcome: outcome as Outcome, ...nobody() })),
  }));
  for (const { key, people, person } of survey.variants) {
    const bits = bitsOf(key);
    const count = (reach: Reach) => {
      reach.people += people;
      reach.person ??= person;
    };
    reached.forEach(({ needed }, i) => {
      const node = nodes[i];
      if (node && isReached(needed, bits)) count(node);
    });
    decisions.forEach((one, i) => {
      const own = bits[i] ?? 0;
      if (own !== 0) one.asked += people;
      one.outcomes.forEach((outcome, at) => {
        if ((own & (1 << at)) !== 0) count(outcome);
      });
    });
  }
  return { people: survey.people, nodes, decisions };
}

/** The number of a decision at a place; undefined where nothing is decided there. */
export function decisionAt(
  decisions: readonly Decision[],
  kind: Decision['kind'],
  node: string,
  path: string,
): number | undefined {
  const found = decisions.findIndex(
    (one) => one.kind === kind && one.node === node && one.path === path,
  );
  return found < 0 ? undefined : found;
}
