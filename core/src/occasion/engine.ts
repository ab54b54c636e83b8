import { instantOf } from '../formula';
import { asSeenBy, isCauseOpen, mayEnter, segmentCauses, watchSegments } from './entry';
import type { Cause, Moment } from './define';
import type { Effect } from './effects';
import { nextRun } from './nextRun';
import type { SendStep } from './occasion';
import { guardOf, type Plan, type World } from './plan';
import type { Reason } from './reasons';
import { mayCreate } from './mayCreate';
import { startKind } from './starts';
import { causeKey, mailKey, trimmed, type PersonState, type Run, type Settled } from './state';
import { besideOf } from './beside';
import { after } from './duration';
import { nextTime } from './clockTime';

export type Input =
  /** Something happened. */
  | { kind: 'happening'; moment: Moment }
  /**
   * Time moved on. `late`: whatever should have been looked at before `until` is looked at only then, and waits count
   * from there, as after a stop of the server.
   */
  | { kind: 'time'; until: number; late?: boolean; moment: (at: number) => Moment };

export interface Advanced {
  state: PersonState;
  effects: readonly Effect[];
}

/** A person may be looked at so often in one stretch of time before it is called a circle. */
const MOST_LOOKS = 10_000;

/** The work on one person, for one input. */
class Walk {
  readonly effects: Effect[] = [];
  /** Whether more is remembered than before. */
  isMore = false;

  constructor(
    public state: PersonState,
    private readonly world: World,
    private readonly usesUp: boolean,
  ) {}

  private replace(run: Run, by: Run | null): void {
    const runs: Run[] = [];
    for (const one of this.state.runs)
      if (one !== run) runs.push(one);
      else if (by) runs.push(by);
    const { settled, mails, segments } = this.state;
    this.state = { runs, settled, mails, segments };
  }

  private of({ occasion, version, cause, about }: Run, at: number) {
    return { occasion, version, cause, about, at };
  }

  private settle(run: Run, at: number, entered: boolean): void {
    const key = causeKey(run.occasion, run.cause);
    this.isMore = true;
    if (this.usesUp) (this.state.settled as Record<string, Settled>)[key] = { at, entered };
    else this.state = { ...this.state, settled: { ...this.state.settled, [key]: { at, entered } } };
  }

  /** Takes up what starts occasions for the person as they are now. */
  learn(moment: Moment): void {
    this.dropGone(moment);
    const watched = watchSegments(this.world.plans, this.state.segments, moment);
    if (watched) this.state = { ...this.state, segments: watched.segments };
    for (const plan of this.world.plans) {
      const kind = startKind(plan.occasion.start.kind);
      const own = asSeenBy(plan, moment);
      this.takeUp(plan, kind.causes(plan.occasion.start, own), moment);
      if (watched) this.takeUp(plan, segmentCauses(plan, watched, moment.at), moment);
      const { happening } = own;
      if (happening?.kind !== 'hand') continue;
      const { name, about = {} } = happening;
      this.takeUp(plan, [{ cause: `hand ${name}`, due: moment.at, about }], moment);
    }
  }

  /** Lets the person come into an occasion by each of some causes that is new. */
  private takeUp(plan: Plan, causes: readonly Cause[], moment: Moment): void {
    for (const cause of causes) {
      if (!isCauseOpen(plan, this.state, cause, moment)) continue;
      const { id: occasion, version } = plan;
      const run: Run = { occasion, version, ...cause, entered: null, next: 0, mails: [] };
      this.state = { ...this.state, runs: [...this.state.runs, run] };
    }
  }

  /** Who only may come in, and whose cause is gone, comes in no more; who is inside and whose cause is gone goes. */
  private dropGone(moment: Moment): void {
    for (const run of this.state.runs) {
      const plan = this.world.plan(run.occasion, run.version);
      const why = plan && this.lost(plan, run, moment);
      if (!why) continue;
      this.replace(run, null);
      if (run.entered !== null) this.end(run, moment.at, null, why);
    }
  }

  /** Why what somebody is here for stands no longer; null where it does. */
  private lost({ occasion: { start } }: Plan, run: Run, moment: Moment): Reason | null {
    const { stands } = startKind(start.kind);
    if (!stands) return null;
    // A date that is still to come is asked when it has come.
    if (run.entered === null && run.due > moment.at && start.kind === 'date_of_person') return null;
    if (!stands(start, moment, run.about)) return 'gone';
    // Touched again before anything was made, a cart waits anew: its later cause stands for it.
    const { cart } = moment.shopper;
    const isCart = start.kind === 'cart_left' || start.kind === 'checkout_left';
    if (!isCart || run.mails.length > 0 || !cart) return null;
    return instantOf(cart.updated_at) > touchedOf(run.cause) ? 'touched' : null;
  }

  /** Looks at whoever is due, in the order of time, then priority, then name. */
  run(until: number, momentAt: (at: number) => Moment, late: boolean): void {
    for (let looks = 0; looks < MOST_LOOKS; looks++) {
      const due = nextRun(this.state.runs, until, this.world);
      if (!due) return;
      const at = late ? Math.max(due.due, until) : due.due;
      this.look(due, momentAt(at));
    }
  }

  private look(run: Run, moment: Moment): void {
    const plan = this.world.plan(run.occasion, run.version);
    const { at } = moment;
    if (!plan) {
      this.replace(run, null);
      if (run.entered !== null) this.end(run, at, null, 'switched_off');
      return;
    }
    if (run.entered === null) {
      const why = this.lost(plan, run, moment) ?? mayEnter(plan, this.state, run, moment);
      this.settle(run, at, why === null);
      if (why !== null) {
        this.replace(run, null);
        this.effects.push({ kind: 'not_entered', ...this.of(run, at), why });
        return;
      }
      const { cart } = moment.shopper;
      const entered: Run = { ...run, entered: at, ...(cart && { cart: cart.updated_at }) };
      this.replace(run, entered);
      this.effects.push({ kind: 'entered', ...this.of(run, at) });
      this.go(plan, entered, moment);
      return;
    }
    this.go(plan, run, moment);
  }

  private end(run: Run, at: number, step: string | null, why: Reason | null): void {
    this.effects.push({ kind: 'ended', ...this.of(run, at), step, why });
  }

  /** Has a mail made; gives the mails of the way with it. */
  private make(run: Run, step: SendStep, moment: Moment): Run['mails'] {
    const { occasion, cause } = run;
    const { at } = moment;
    const beside = besideOf(run, this.state, moment);
    if (step.to === 'person') {
      const made = { occasion, cause, step: step.id, at, marketing: step.mail === 'marketing' };
      this.isMore = true;
      this.state = { ...this.state, mails: [...this.state.mails, made] };
    }
    const key = mailKey(occasion, cause, step.id);
    this.effects.push({ kind: 'mail', ...this.of(run, at), key, step, beside });
    return [...run.mails, { step: step.id, at }];
  }

  private ask(run: Run, step: string, when: string, moment: Moment): boolean {
    const beside = besideOf(run, this.state, moment);
    const held = moment.holds(when, beside);
    this.effects.push({ kind: 'asked', ...this.of(run, moment.at), step, held, when, beside });
    return held;
  }

  /** Goes on from where somebody is, until they have to wait or are through. */
  private go(plan: Plan, from: Run, moment: Moment): void {
    const { at, zone } = moment;
    let run = from;
    const keep = (changed: Partial<Run>) => {
      run = { ...run, ...changed };
      if (changed.asking === undefined) delete run.asking;
    };
    const finish = (step: string | null, why: Reason | null) => {
      this.replace(from, null);
      this.end(run, at, step, why);
    };
    for (;;) {
      const op = plan.ops[run.next];
      if (!op) return finish(null, null);
      switch (op.op) {
        case 'jump':
          keep({ next: op.to });
          continue;
        case 'wait': {
          const { step } = op;
          const until = step.until
            ? nextTime(at, step.until, zone)
            : after(at, step.for ?? { n: 0, unit: 'minutes' }, zone);
          keep({ next: run.next + 1, due: until });
          if (until <= at) continue;
          this.replace(from, run);
          this.effects.push({ kind: 'waits', ...this.of(run, at), step: step.id, until });
          return;
        }
        case 'test': {
          const held = this.ask(run, op.step, op.when, moment);
          keep({ next: held ? run.next + 1 : op.otherwise });
          continue;
        }
        case 'guard': {
          const { step } = op;
          const held = this.ask(run, step.id, step.when, moment);
          if (held) keep({ next: run.next + 1 });
          else if (step.otherwise === 'skip') keep({ next: op.skip });
          else if (step.otherwise === 'stop') return finish(step.id, 'guard');
          else {
            const since = run.asking ?? at;
            const next = after(at, step.every ?? { n: 1, unit: 'days' }, zone);
            if (next > after(since, step.up_to ?? { n: 7, unit: 'days' }, zone) || next <= at)
              return finish(step.id, 'waited');
            keep({ due: next, asking: since });
            this.replace(from, run);
            this.effects.push({ kind: 'waits', ...this.of(run, at), step: step.id, until: next });
            return;
          }
          continue;
        }
        case 'send': {
          const { step } = op;
          const lost = this.lost(plan, run, moment);
          const answer = mayCreate(plan, step, run, this.state, moment, lost === null);
          if (answer.kind === 'postpone') {
            const { until, why } = answer;
            keep({ due: until });
            this.replace(from, run);
            this.effects.push({
              kind: 'postponed',
              ...this.of(run, at),
              step: step.id,
              why,
              until,
            });
            return;
          }
          if (answer.kind === 'stop') {
            const { why } = answer;
            if (why === 'gone') return finish(step.id, lost ?? 'gone');
            if (why === 'rest') return finish(step.id, 'rest');
            const guard = why === 'guard' ? guardOf(plan, answer.guard) : null;
            if (guard) {
              this.ask(run, guard.step.id, guard.step.when, moment);
              if (guard.step.otherwise === 'stop') return finish(guard.step.id, 'guard');
              if (guard.step.otherwise === 'ask_again') {
                keep({ next: guard.index });
                continue;
              }
            }
            this.effects.push({ kind: 'not_made', ...this.of(run, at), step: step.id, why });
            keep({ next: run.next + 1 });
            continue;
          }
          keep({ next: run.next + 1, mails: this.make(run, step, moment) });
        }
      }
    }
  }
}

/** The touch that a cause of a cart names. */
const touchedOf = (cause: string): number => instantOf(cause.slice(cause.lastIndexOf(' ') + 1));

/**
 * The engine: what becomes of a person by something that happened, or by time going by. Pure: the same state and input
 * give the same, and time in one stretch gives what it gives in many. `usesUp`: nobody looks at the state that was given
 * afterwards, so that what it remembers is added to and not copied.
 */
export function advance(
  state: PersonState,
  input: Input,
  world: World,
  { usesUp = false }: { usesUp?: boolean } = {},
): Advanced {
  const walk = new Walk(state, world, usesUp);
  if (input.kind === 'happening') {
    const { moment } = input;
    walk.learn(moment);
    walk.run(moment.at, () => moment, true);
  } else walk.run(input.until, input.moment, input.late ?? false);
  const { state: after, effects, isMore } = walk;
  const at = input.kind === 'happening' ? input.moment.at : input.until;
  return { state: isMore ? trimmed(after, at) : after, effects };
}
