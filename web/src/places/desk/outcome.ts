import type { Trail } from '@carafe/core/render';
import type { TemplateNode } from '@carafe/core/template';

/** What a node did for the recipient shown. */
export interface Outcome {
  /** It does not show at all. */
  hidden: boolean;
  /** In a few words; empty when there is nothing to tell. */
  summary: string;
}

function counted(entry: Trail[number] & { is: 'loop' }): string {
  const noun = entry.formula.replace(/\./g, ' ');
  const short = noun.length > 26 ? `${noun.slice(0, 25)}…` : noun;
  return entry.shown === entry.before
    ? `×${entry.shown} ${short}`
    : `×${entry.shown} of ${entry.before} ${short}`;
}

/** Reads from the trail what a node did. Inside loops the first member speaks for all. */
export function outcomeOf(node: TemplateNode, trail: Trail): Outcome {
  const own = trail.filter((entry) => entry.node === node.id);
  const condition = own.find((entry) => entry.is === 'condition' && entry.path === 'when');
  if (condition?.is === 'condition' && !condition.held)
    return { hidden: true, summary: `hidden: not ${condition.formula}` };
  const said: string[] = [];
  for (const entry of own)
    if (entry.is === 'loop' && (entry.path === 'loop' || entry.path === 'items')) {
      said.push(counted(entry));
      break;
    }
  const fell = own.filter(
    (entry) => entry.is === 'value' && entry.fallback && entry.path === 'text',
  ).length;
  if (fell > 0) said.push(fell === 1 ? 'fallback used' : `${fell} fallbacks used`);
  if (condition) said.push('shows');
  return { hidden: false, summary: said.join(', ') };
}
