import {
  compile,
  evaluate,
  parsedFormula,
  printValue,
  type Context,
  type Fields,
} from '../formula';
import { compileLoop } from './loop';
import { contextFor, type RenderOptions } from './record';
import type { Loop } from '../template/parts';

/** A context as it is inside loops, at the first member of each; for samples in an editor. */
export function sampleContext(
  record: Fields,
  options: RenderOptions,
  loops: readonly Loop[],
): Context {
  const context = contextFor(record, options);
  for (const loop of loops) {
    const walk = compileLoop(
      {
        list: 0,
        as: loop.as,
        ...(loop.where && { where: 1 }),
        ...(loop.sort && { by: 2, down: loop.sort.direction === 'descending' }),
      },
      [loop.list, loop.where ?? '', loop.sort?.by ?? ''],
    );
    const { shown, currency } = walk(context);
    const { length: count } = shown;
    context.frame = {
      member: shown[0],
      as: loop.as,
      currency,
      position: 1,
      count,
      parent: context.frame,
    };
  }
  return context;
}

/** What a formula prints in a context; null where it does not parse. */
export function sampleText(formula: string, context: Context): string | null {
  const parsed = parsedFormula(formula);
  return parsed.ok ? printValue(evaluate(compile(parsed.value), context), context) : null;
}
