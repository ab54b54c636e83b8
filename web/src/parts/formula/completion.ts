import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { allFunctions, type ScopeFrame } from '@carafe/core/formula';
import { fieldPaths, kindName, type Field, type Shape } from '@carafe/core/shape';

/** How often a field is filled, and a sample, in a few letters. */
function detailOf({ filled, of, samples, shape, label }: Field): string {
  const share = of === 0 ? '' : `${Math.round((100 * filled) / of)} %`;
  const sample = label ?? samples[0] ?? kindName(shape);
  return [share, sample.length > 24 ? `${sample.slice(0, 23)}…` : sample]
    .filter(Boolean)
    .join(' · ');
}

const FUNCTIONS: Completion[] = allFunctions().map(({ name, usage, description }) => ({
  label: name,
  apply: `${name}(`,
  type: 'function',
  detail: usage.slice(name.length),
  info: description,
  boost: -1,
}));

/** Fields that can be named at a place, and functions, as far as they begin with what is written. */
export function completions(shape: Shape, frames: readonly ScopeFrame[]) {
  const fields: Completion[] = fieldPaths(shape, frames).map(({ path, field }) => ({
    label: path,
    type: 'variable',
    detail: detailOf(field),
  }));
  return (context: CompletionContext): CompletionResult | null => {
    const word = context.matchBefore(/[\p{L}_][\p{L}\p{Nd}_.]*/u);
    if (!word && !context.explicit) return null;
    // Inside a text in quotes nothing is completed.
    const before = context.state.sliceDoc(0, context.pos);
    if ((before.match(/"/g)?.length ?? 0) % 2 === 1) return null;
    return {
      from: word?.from ?? context.pos,
      options: [...fields, ...FUNCTIONS],
      validFor: /^[\p{L}\p{Nd}_.]*$/u,
    };
  };
}
