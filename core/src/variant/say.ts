import { parsedFormula, parsedRunning, walk, wordsOf, type Node } from '../formula';
import { outcomesOf, type Decision, type Outcome } from '../render';
import { bitsOf, type VariantFigure } from './figures';

/** What a formula is about, in words: the last field that it reads. */
export function topicOf(formula: string): string {
  const running = formula.includes('{{') ? parsedRunning(formula) : null;
  const [first] = running?.ok
    ? running.value.flatMap((part) => (part.type === 'tag' ? [part.node] : []))
    : [];
  const parsed = running ? null : parsedFormula(formula);
  const node: Node | undefined = parsed ? (parsed.ok ? parsed.value : undefined) : first;
  let words: string | null = null;
  if (node)
    walk(node, (inside) => {
      if (words === null && inside.type === 'field') words = wordsOf(inside);
      if (words === null && inside.type === 'name') words = wordsOf(inside);
    });
  return words ?? 'value';
}

/** What members of a list are called, for one and for many. */
function nounOf(formula: string): [string, string] {
  const words = topicOf(formula);
  if (/^(?:catalog|picks)\b/.test(words)) return ['product', 'products'];
  const last = words.split(' ').at(-1) ?? 'members';
  return /[a-z]s$/.test(last) ? [last.slice(0, -1), last] : ['member', 'members'];
}

const NUMBERS: Partial<Record<Outcome, string>> = {
  none: 'no',
  one: 'one',
  two: 'two',
  three: 'three',
  some: '4 to 6',
  many: '7 or more',
};

/** Names for nodes, as they stand in the outline. */
export type NodeName = (node: string) => string;

const MOST_LETTERS = 32;
const shortName = (name: string): string =>
  name.length > MOST_LETTERS ? `${name.slice(0, MOST_LETTERS - 1).trimEnd()}…` : name;

function sayOutcome(
  { kind, node, formula, path }: Decision,
  bits: number,
  nameOf: NodeName,
): string {
  const outcomes = outcomesOf(kind, bits);
  const [first = 'not'] = outcomes;
  const name = shortName(nameOf(node));
  if (outcomes.length === 0) return `“${name}” is not there`;
  if (kind === 'condition') {
    // A condition inside a block is about what it asks for, not about the block.
    if (path !== 'when')
      return `${outcomes.length > 1 ? 'some with ' : first === 'held' ? 'with ' : 'without '}${topicOf(formula)}`;
    if (outcomes.length > 1) return `“${name}” for some of its list`;
    return first === 'held' ? `with “${name}”` : `without “${name}”`;
  }
  if (kind === 'list') {
    const [one, many] = nounOf(formula);
    return outcomes
      .map((outcome) => `${NUMBERS[outcome] ?? ''} ${outcome === 'one' ? one : many}`)
      .join(' and ');
  }
  if (kind === 'picks') return `picks from the ${outcomes.join(' and ')} step`;
  if (kind === 'address') {
    const what = /src|image|picture/.test(path) ? 'picture' : 'link';
    if (outcomes.length > 1) return `some without a ${what}`;
    return first === 'given' ? `with a ${what}` : `no ${what}`;
  }
  const topic = topicOf(formula);
  const some = outcomes.length > 1 ? 'some ' : '';
  if (outcomes.includes('blank')) return some === '' ? `no ${topic}` : `some without ${topic}`;
  if (outcomes.includes('fallback')) return `${some}fallback for ${topic}`;
  return `with ${topic}`;
}

/** Conditions say most of a mail, then lists, then what is missing. */
const WEIGHT: Record<Decision['kind'], number> = {
  condition: 0,
  list: 1,
  value: 2,
  address: 3,
  picks: 4,
};
const MOST_SAID = 4;

/** For each decision the outcome that most people have; what sets a variant apart is told from it. */
export function usualBits(variants: readonly VariantFigure[], decisions: number): number[] {
  const counts = Array.from({ length: decisions }, () => new Map<number, number>());
  for (const { key, people } of variants)
    bitsOf(key).forEach((bits, i) => counts[i]?.set(bits, (counts[i].get(bits) ?? 0) + people));
  return counts.map((own) => [...own].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0);
}

/**
 * What sets a variant apart, in words: “no first name · one line · with “Free postage””. A decision below a node that
 * is not there says nothing of its own.
 */
export function sayVariant(
  { key }: VariantFigure,
  usual: readonly number[],
  decisions: readonly Decision[],
  nameOf: NodeName,
): string {
  const own = bitsOf(key);
  const differing = decisions
    .map((decision, i) => ({ decision, bits: own[i] ?? 0, usual: usual[i] ?? 0 }))
    .filter(
      ({ decision: { kind }, bits, usual: before }) =>
        // What is given as it should be is news only where it usually is not.
        bits !== before && bits !== 0 && !(before === 0 && bits === 1 && kind !== 'list'),
    )
    .sort((a, b) => WEIGHT[a.decision.kind] - WEIGHT[b.decision.kind]);
  const said = [
    ...new Set(differing.map(({ decision, bits }) => sayOutcome(decision, bits, nameOf))),
  ];
  if (said.length === 0) return 'The usual in every part';
  const more = said.length - MOST_SAID;
  const words = said.slice(0, MOST_SAID).join(' · ');
  const text = more > 0 ? `${words} · and ${more} more` : words;
  return text.charAt(0).toUpperCase() + text.slice(1);
}
