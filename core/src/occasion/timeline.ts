import { nextTime } from './clockTime';
import { after } from './duration';
import type { Occasion, Step } from './occasion';
import type { ShopRules } from './shopRules';
import { startKind } from './starts';

/** A step where it stands on the line of true time. */
export interface Hung {
  step: Step;
  /** Milliseconds from what the occasion is about: the cart’s last touch, the order. */
  from: number;
  /** How deep it stands in branches. */
  depth: number;
  /** Of a branch’s rows: which way, from 0; the last for “else”. */
  way?: number;
}

/**
 * Where each step stands in time, for somebody for whom it begins at `begin` and every guard holds at once. The start
 * itself stands at `quiet`.
 */
export function timelineOf(
  { start, steps }: Pick<Occasion, 'start' | 'steps'>,
  rules: ShopRules,
  { begin, zone }: { begin: number; zone: string },
): { quiet: number; hung: Hung[] } {
  const quiet = startKind(start.kind).quiet?.(start, rules) ?? 0;
  const hung: Hung[] = [];
  /** Lays a row out from an instant on; gives the instant at which it ends. */
  const lay = (row: readonly Step[], from: number, depth: number, way?: number): number => {
    let at = from;
    for (const step of row) {
      hung.push({ step, from: at - begin, depth, ...(way !== undefined && { way }) });
      if (step.kind === 'wait')
        at = step.until
          ? nextTime(at, step.until, zone)
          : after(at, step.for ?? { n: 0, unit: 'minutes' }, zone);
      if (step.kind === 'branch') {
        const ends = [...step.ways.map((one) => one.steps), step.otherwise].map((inside, i) =>
          lay(inside, at, depth + 1, i),
        );
        at = Math.max(...ends);
      }
    }
    return at;
  };
  lay(steps, begin + quiet, 0);
  return { quiet, hung };
}
