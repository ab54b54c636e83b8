import type { OpOf } from '../build/program';
import { explain, printValue, type Evaluate, type Node, type Value } from '../formula';
import { note, type Filling } from './filling';
import type { Walked } from './sharedWalk';
import { memberName } from './trail';

/** Tells what a value came to. */
export function noteValue(
  f: Filling,
  { node: id, path }: OpOf<'value'>,
  { node, source, formula }: { node: Node; source: string; formula: Evaluate },
): void {
  let fellBack = false;
  const context = { ...f.context, onFallback: () => (fellBack = true) };
  const why = explain(node, source, context);
  const text = printValue(formula(context), context);
  note(f, { is: 'value', node: id, path, formula: source, text, fallback: fellBack, why });
}

/** Tells what a loop showed of its list. */
export function noteLoop(
  f: Filling,
  { node, path, loop }: OpOf<'loop'>,
  walked: Walked,
  formulas: readonly string[],
): void {
  const shown = new Set<unknown>(walked.shown);
  const list = formulas[loop.list] ?? '';
  const where = loop.where === undefined ? '' : (formulas[loop.where] ?? '');
  note(f, {
    ...{ is: 'loop', node, path, formula: list, as: loop.as },
    before: f.lengths?.[list] ?? walked.before.length,
    kept: f.lengths?.[`${list} where ${where}`] ?? walked.kept,
    shown: walked.shown.length,
    members: walked.before
      .slice(0, 12)
      .map((member, i) => ({ name: memberName(member as Value, i), shown: shown.has(member) })),
  });
}
