import type { OpOf, Program } from '../build/program';
import type { Frame } from '../formula';
import { isPast, type Run } from './filling';
import { compileLoop } from './loop';
import { noteLoop } from './notes';
import { wordsIn } from './operations';
import type { PrepareOptions } from './options';
import { rememberBody, type Repeat } from './sharedBody';
import { noteOffers, noteProduct, pickSteps } from './shownProducts';
import { bandOf } from './tally';

/** Repeats what stands in a loop for each member of its list. */
export function loopOf(
  op: OpOf<'loop'>,
  program: Program,
  options: PrepareOptions,
  body: Run,
): Run {
  const { formulas } = program;
  const walk = compileLoop(op.loop, formulas);
  const bodyLength = wordsIn(op.body);
  const { grid } = op;
  const { as } = op.loop;
  const { tally, dry, canvas } = options;
  const list = formulas[op.loop.list] ?? '';
  const at = tally?.decision({ kind: 'list', node: op.node, path: op.path, formula: list }) ?? 0;
  const picked = tally && pickSteps(op, list, tally);
  const isOffer = /\b(?:catalog|picks)\b/.test(list);
  const repeat: Repeat = (f, walked) => {
    if (f.trail) noteLoop(f, op, walked, formulas);
    const { context } = f;
    const outer = context.frame;
    const { shown, currency } = walked;
    const frame: Frame = {
      ...{ member: undefined, as, currency, position: 0, count: shown.length, parent: outer },
    };
    context.frame = frame;
    const { out } = f;
    if (tally && f.products && isOffer) noteOffers(tally, f.products, shown);
    let i = 0;
    for (; i < shown.length; i++) {
      f.repeats++;
      if (isPast(f, op)) break;
      frame.member = shown[i];
      if (f.products) noteProduct(f.products, shown[i]);
      frame.position = i + 1;
      f.length += bodyLength;
      if (grid && !dry && i % grid.columns === 0) out.push(grid.open);
      body(f);
      if (grid && !dry && i % grid.columns === grid.columns - 1) out.push(grid.close);
    }
    context.frame = outer;
    if (grid && !dry && i % grid.columns !== 0)
      out.push(grid.blank.repeat(grid.columns - (i % grid.columns)), grid.close);
  };
  // What is counted, or marked for a canvas, is done anew each time.
  const repeated = tally || canvas ? repeat : rememberBody(repeat, op.body, program);
  return (f) => {
    const walked = walk(f.context, f.products ?? undefined);
    if (tally) tally.saw(at, bandOf(walked.shown.length));
    picked?.(walked.shown);
    repeated(f, walked);
  };
}
