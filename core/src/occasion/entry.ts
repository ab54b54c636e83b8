import type { Cause, Moment } from './define';
import type { Plan } from './plan';
import type { Reason } from './reasons';
import { mustRest } from '../sending';
import { askedOf, ledgerOf, restDaysOf } from './ledger';
import { causeKey, type PersonState, type Run } from './state';
import { isAmong } from './whom';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** What is learned of later than this after it was due starts nothing, as an old order in a file. */
const MOST_LATE = DAY;

/** A moment as one occasion sees it: a time or a choice that is meant for another occasion has not happened to it. */
export function asSeenBy({ id }: Plan, moment: Moment): Moment {
  const { happening } = moment;
  const isForOne = happening?.kind === 'time' || happening?.kind === 'hand';
  return isForOne && happening.occasion !== id ? { ...moment, happening: null } : moment;
}

/** Whether a cause is new: not used, not waiting, and neither from before the occasion was on nor long past. */
export function isCauseOpen(
  { id, since }: Plan,
  { settled, runs }: PersonState,
  { cause, due }: Cause,
  { at }: Moment,
): boolean {
  return (
    due >= since &&
    due >= at - MOST_LATE &&
    settled[causeKey(id, cause)] === undefined &&
    !runs.some((run) => run.occasion === id && run.cause === cause)
  );
}

/** What is known of a person's segments now, and of those that changed, by name, which way. */
export interface Watched {
  segments: PersonState['segments'];
  changed: ReadonlyMap<string, 'entered' | 'left'>;
}

/**
 * Looks at the segments that occasions watch. What is known belongs to the segment and not to an occasion: somebody has
 * entered it where an earlier look found them outside. Who is met for the first time, or for the first time since the
 * condition was changed or nobody watched, has neither entered nor left.
 */
export function watchSegments(
  plans: readonly Plan[],
  before: PersonState['segments'],
  moment: Moment,
): Watched | null {
  let segments = before;
  const changed = new Map<string, 'entered' | 'left'>();
  const since = new Map<string, number>();
  for (const { occasion, watching } of plans) {
    const { start } = occasion;
    if (start.kind !== 'segment_changed' || start.segment === '') continue;
    since.set(start.segment, Math.min(since.get(start.segment) ?? watching, watching));
  }
  for (const [name, watching] of since) {
    const was = before[name];
    const { is, mark } = moment.inSegment(name);
    const isKnown = was?.mark === mark && was.at >= watching;
    if (isKnown && was.is === is) continue;
    if (isKnown) changed.set(name, is ? 'entered' : 'left');
    segments = { ...segments, [name]: { is, at: moment.at, mark } };
  }
  return segments === before ? null : { segments, changed };
}

/** What a change of segments starts in an occasion. */
export function segmentCauses(
  { occasion: { start } }: Plan,
  { changed }: Watched,
  at: number,
): readonly Cause[] {
  if (start.kind !== 'segment_changed' || changed.get(start.segment) !== start.change) return [];
  const cause = `segment ${start.segment} ${new Date(at).toISOString()}`;
  return [{ cause, due: at, about: {} }];
}

/** How a segment is asked for among formulas: by its name, which whoever answers knows. */
export const segmentFormula = (name: string): string => `segment:${name}`;

/** Why somebody does not come in now; null where they do. */
export function mayEnter(
  { id, occasion }: Plan,
  { runs, settled, mails }: PersonState,
  run: Run,
  moment: Moment,
): Reason | null {
  const { whom } = occasion;
  const { at, person, rules } = moment;
  const field = (name: string) => (person as Record<string, unknown>)[name];
  if (!whom.guests && field('guest') === true) return 'guest';
  const { addresses = [] } = whom;
  if (addresses.length > 0 && !isAmong(addresses, field('email'))) return 'segment';
  if (whom.segment && !moment.holds(segmentFormula(whom.segment), {})) return 'segment';
  if (whom.without && moment.holds(segmentFormula(whom.without), {})) return 'segment';
  if (whom.where?.trim() && !moment.holds(whom.where, { event: { ...run.about } }))
    return 'segment';
  const isSame = (one: Run) =>
    one !== run && one.occasion === id && one.entered !== null && sameThing(one, run);
  if (runs.some(isSame)) return 'inside';
  if (rules.one_cause === 'first') {
    const [own, named] = [causeKey(id, run.cause), ` ${run.cause}`];
    for (const key in settled)
      if (settled[key]?.entered && key !== own && key.endsWith(named)) return 'answered';
  }
  return mustRest(ledgerOf(mails), askedOf(run, occasion, at), restDaysOf(occasion))
    ? 'rest'
    : null;
}

/** Two ways about the same order, cart, product or post. */
function sameThing(a: Run, b: Run): boolean {
  return (['order', 'cart', 'sku', 'post'] as const).every(
    (what) => a.about[what] === b.about[what],
  );
}
