import { check, parsedFormula, type ScopeFrame } from '../formula';
import { ANY, memberShape, type Shape } from '../shape';
import type { Loop } from '../template/parts';

/** The shapes that loops bring into scope, from the outside in. */
export function framesOf(loops: readonly Loop[], shape: Shape): ScopeFrame[] {
  const frames: ScopeFrame[] = [];
  for (const loop of loops) {
    const parsed = parsedFormula(loop.list);
    const type = parsed.ok ? check(parsed.value, shape, { frames }).type : ANY;
    frames.push({ shape: memberShape(type), as: loop.as });
  }
  return frames;
}
