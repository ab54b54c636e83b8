import { kindOf } from '../template/kinds';
import { wordsOfNode } from '../template/nodeWords';
import { findNode, walkNodes, type NodePosition } from '../template/nodes';
import type { Template } from '../template/schema';
import { peopleWith, type Fact } from '../variant';
import type { Decision, Outcome } from '../render';
import { ofPeople, type CheckContext, type Found } from './define';

/** The outcomes of decisions of a kind that people reach: with the decision, and how many of how many. */
export function outcomes(
  { survey, coverage }: CheckContext,
  kind: Decision['kind'],
  outcome: Outcome,
): { decision: Decision; number: number; people: number; person: number | null; asked: number }[] {
  if (!survey || !coverage) return [];
  return coverage.decisions.flatMap(({ decision: number, asked, outcomes: all }) => {
    const decision = survey.decisions[number];
    const found = all.find((one) => one.outcome === outcome);
    if (decision?.kind !== kind || !found) return [];
    return [{ decision, number, asked, people: found.people, person: found.person }];
  });
}

/** How many people have only one outcome of a decision. */
export function onlyOutcome({ survey }: CheckContext, number: number, bit: number): number {
  return survey ? peopleWith(survey.variants, (bits) => bits[number] === bit).people : 0;
}

/** What a fact of the mail itself says, as a finding; none where nobody’s mail is so. */
export function factFound(
  { survey }: CheckContext,
  name: string,
  given: Pick<Found, 'severity' | 'path'> & { say: (whom: string, fact: Fact) => string },
): Found[] {
  const fact = survey?.facts[name];
  if (!survey || !fact) return [];
  const { severity, path, say } = given;
  return [
    {
      ...{ severity, node: '', path, people: fact.people, person: fact.person },
      message: say(ofPeople(fact.people, survey.people), fact),
    },
  ];
}

/** Facts of addresses with one problem, with the decision that they are of. */
export function addressFacts(
  { survey }: CheckContext,
  problem: string,
): { decision: Decision; fact: Fact }[] {
  if (!survey) return [];
  return Object.entries(survey.facts).flatMap(([name, fact]) => {
    const [what, number, which] = name.split(':');
    const decision = survey.decisions[Number(number)];
    return what === 'address' && which === problem && decision ? [{ decision, fact }] : [];
  });
}

/** A node’s name as it stands in the outline; the envelope for none. */
export function nameOf(template: Template, id: string): string {
  const node = id === '' ? undefined : findNode(template, id)?.node;
  return node ? kindOf(node).label(node as never) : 'the envelope';
}

/** Every node with what it stands in. */
export function positions(template: Template): NodePosition[] {
  const all: NodePosition[] = [];
  walkNodes(template, (position) => void all.push(position));
  return all;
}

export const shortened = (text: string, most = 60): string =>
  text.length > most ? `${text.slice(0, most - 1)}…` : text;

export { wordsOfNode };
