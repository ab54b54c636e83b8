import type { GuardStep, Occasion, SendStep, Step, WaitStep } from './occasion';

/** The steps of an occasion one after the other, branches as jumps. */
export type Op =
  | { op: 'wait'; step: WaitStep }
  /** Goes on at `skip` where it is passed over. */
  | { op: 'guard'; step: GuardStep; skip: number }
  /** Goes on at `otherwise` where the condition does not hold. */
  | { op: 'test'; step: string; when: string; otherwise: number }
  | { op: 'jump'; to: number }
  | { op: 'send'; step: SendStep };

/** An occasion as it is on: one version, laid out to be walked. */
export interface Plan {
  id: string;
  version: number;
  occasion: Occasion;
  ops: readonly Op[];
  /** Since when its start is heeded, in milliseconds; what was due before starts nothing. */
  since: number;
  /**
   * Since when somebody has watched its segment without a break, in milliseconds: what was known of members
   * before is out of date.
   */
  watching: number;
}

/** What is on. */
export interface World {
  /** The occasions that somebody can come into. */
  plans: readonly Plan[];
  /** A version that somebody is inside of; null where the occasion was switched off. */
  plan(id: string, version: number): Plan | null;
}

type Loose = Op[];

/** The place in a row behind the next mail, or the next branch. */
function afterNextMail(steps: readonly Step[], from: number): number {
  const next = steps.findIndex(({ kind }, i) => i > from && (kind === 'send' || kind === 'branch'));
  return next < 0 ? steps.length : next + 1;
}

function layOut(steps: readonly Step[], out: Loose): void {
  const skips: { guard: Extract<Op, { op: 'guard' }>; after: number }[] = [];
  steps.forEach((step, i) => {
    for (const { guard, after } of skips) if (after === i) guard.skip = out.length;
    switch (step.kind) {
      case 'wait':
        out.push({ op: 'wait', step });
        break;
      case 'send':
        out.push({ op: 'send', step });
        break;
      case 'guard': {
        const guard = { op: 'guard' as const, step, skip: out.length + 1 };
        out.push(guard);
        skips.push({ guard, after: afterNextMail(steps, i) });
        break;
      }
      case 'branch': {
        const ends: Extract<Op, { op: 'jump' }>[] = [];
        for (const { when, steps: inside } of step.ways) {
          const test = { op: 'test' as const, step: step.id, when, otherwise: 0 };
          out.push(test);
          layOut(inside, out);
          const end = { op: 'jump' as const, to: 0 };
          out.push(end);
          ends.push(end);
          test.otherwise = out.length;
        }
        layOut(step.otherwise, out);
        for (const end of ends) end.to = out.length;
      }
    }
  });
  for (const { guard, after } of skips) if (after >= steps.length) guard.skip = out.length;
}

/** Lays an occasion out. */
export function planOf(
  id: string,
  version: number,
  occasion: Occasion,
  since: number,
  watching = since,
): Plan {
  const ops: Op[] = [];
  layOut(occasion.steps, ops);
  return { id, version, occasion, ops, since, watching };
}

const WAYS = ({ ways, otherwise }: Extract<Step, { kind: 'branch' }>): readonly Step[][] => [
  ...ways.map((way) => way.steps),
  otherwise,
];

function guardsOnTheWay(steps: readonly Step[], id: string): GuardStep[] | null {
  let guards: GuardStep[] = [];
  for (const step of steps) {
    if (step.id === id) return guards;
    if (step.kind === 'guard') guards.push(step);
    // A guard that passes one email over says nothing of those behind it.
    const isPassed = step.kind === 'send' || step.kind === 'branch';
    if (step.kind === 'branch')
      for (const way of WAYS(step)) {
        const inside = guardsOnTheWay(way, id);
        if (inside) return [...guards, ...inside];
      }
    if (isPassed) guards = guards.filter(({ otherwise }) => otherwise !== 'skip');
  }
  return null;
}

/**
 * The guards that an email depends on, the nearest last. All must hold at the moment of sending: when the email is created,
 * filled and handed over.
 */
export const guardsFor = (steps: readonly Step[], id: string): GuardStep[] =>
  guardsOnTheWay(steps, id) ?? [];

/** A guard of a plan, and where it stands. */
export function guardOf({ ops }: Plan, id: string | undefined) {
  const index = ops.findIndex((op) => op.op === 'guard' && op.step.id === id);
  const op = ops[index];
  return op?.op === 'guard' ? { step: op.step, index } : null;
}
