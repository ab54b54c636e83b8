import { parsedFormula, wordsOf } from '@carafe/core/formula';
import type { Trail } from '@carafe/core/render';
import type { TemplateNode } from '@carafe/core/template';
import { wordsOf as pageWords } from '../../words';

const t = pageWords('desk');

/** What a node did for the recipient shown. */
export interface Outcome {
  /** It does not show at all. */
  hidden: boolean;
  /** In a few words; empty when there is nothing to tell. */
  summary: string;
}

/** What the members of a list are called: `cart.lines` has lines, `feeds.furrow.posts` posts. */
function noun(list: string): string {
  const parsed = parsedFormula(list);
  const words = parsed.ok ? wordsOf(parsed.value) : null;
  if (/^(?:catalog|picks) /.test(words ?? '')) return 'products';
  const last = words?.split(' ').at(-1);
  return last && /[a-z]s$/.test(last) ? last : 'members';
}

function counted(entry: Trail[number] & { is: 'loop' }): string {
  if (entry.formula === 'missing') return t('formulaError');
  const { shown, before } = entry;
  const many = noun(entry.formula);
  const figure = (n: number) => (n === 0 ? 'no' : n.toLocaleString('en-GB'));
  const word = (n: number) => (n === 1 ? many.slice(0, -1) : many);
  return shown === before || before === 0
    ? `${figure(shown)} ${word(shown)}`
    : `${shown.toLocaleString('en-GB')} of ${figure(before)} ${word(before)}`;
}

/** Reads from the trail what a node did. Inside loops the first member speaks for all. */
export function outcomeOf(node: TemplateNode, trail: Trail): Outcome {
  const own = trail.filter((entry) => entry.node === node.id);
  const condition = own.find((entry) => entry.is === 'condition' && entry.path === 'when');
  if (condition?.is === 'condition' && !condition.held) {
    const isBroken = condition.formula === 'false' && node.when !== 'false';
    return {
      hidden: true,
      summary: isBroken ? t('formulaError') : t('hiddenSaid', { said: condition.said }),
    };
  }
  const told: string[] = [];
  const loop = own.find((e) => e.is === 'loop' && (e.path === 'loop' || e.path === 'items'));
  if (loop?.is === 'loop') told.push(counted(loop));
  const fallbacks = own.filter((e) => e.is === 'value' && e.fallback && e.path === 'text').length;
  if (fallbacks > 0) told.push(fallbacks === 1 ? 'fallback used' : `${fallbacks} fallbacks used`);
  if (condition) told.push('shows');
  return { hidden: false, summary: told.join(', ') };
}
