import type { Span } from './ast';
import { MAX_STEPS } from './bounds';
import type { Locale } from './locale';
import { fieldReader, isRecord, type Fields, type Value } from './values';

/** One member in scope: its fields are seen bare, `it` is the member, `as` a name for it. */
export interface Frame {
  member: unknown;
  as: string | null;
  /** The currency of what the list came from, for `money` without one. */
  currency: string | undefined;
  /** Its place among the members that a loop of the mail shows, from 1, and how many those are. */
  position?: number;
  count?: number;
  parent: Frame | null;
}

export interface Reason extends Span {
  message: string;
}

/** A compiled node. Use `evaluate` to run a whole formula: it holds the bounds. */
export type Evaluate = (context: Context) => Value;

/** What one evaluation reads and counts. Make one a recipient with `newContext`. */
export interface Context {
  record: Fields;
  locale: Locale;
  /** The currency when nothing nearer has one. */
  currency: string | undefined;
  /** What `now` and `today` mean where the record has none of its own. */
  clock: { now: Value; today: Value } | null;
  frame: Frame | null;
  /** Steps left in this evaluation. */
  left: number;
  /** Steps left for everything that is evaluated with this context: a mail has many formulas. */
  total: number;
  /** Told the offset of every `otherwise` that was needed, when set. */
  onFallback: ((start: number) => void) | null;
  /** Told why something is missing, when set. */
  reasons: Reason[] | null;
  /** Why the last evaluation that passed a bound was ended; null where none did. */
  bound: string | null;
}

export function newContext(record: Fields, locale: Locale, currency?: string): Context {
  return {
    record,
    locale,
    currency,
    clock: null,
    frame: null,
    left: MAX_STEPS,
    total: Number.POSITIVE_INFINITY,
    onFallback: null,
    reasons: null,
    bound: null,
  };
}

/** Thrown inside an evaluation that passes a bound; never leaves this folder. */
export class Bound {
  constructor(readonly message: string) {}
}

/**
 * Counts steps without stopping: for small work in formulas that may run without the guard (see
 * `isSafe` in compile). The next `spend` stops what went past its bound.
 */
export function charge(context: Context, steps: number): void {
  context.left -= steps;
}

export function spend(context: Context, steps: number): void {
  context.left -= steps;
  if (context.left < 0) throw new Bound('This takes too long to calculate for one recipient.');
}

/** Notes why a value is missing, when somebody asked, and gives missing. */
export function miss(context: Context, at: Span, message: string): undefined {
  context.reasons?.push({ start: at.start, end: at.end, message });
  return undefined;
}

/** Where the nearest loop of the mail stands: `loop.first` is true for its first member. */
function placeIn(frame: Frame | null): Value {
  for (let at = frame; at !== null; at = at.parent) {
    const { position, count } = at;
    if (position === undefined || count === undefined) continue;
    return {
      ...{ position, count, first: position === 1, last: position === count },
      odd: position % 2 === 1,
    };
  }
  return undefined;
}

/** What a bare name means here: nearest frame first, then the record. Made once a name. */
export function nameReader(name: string): (context: Context) => Value {
  const read = fieldReader(name);
  return (context) => {
    for (let frame = context.frame; frame !== null; frame = frame.parent) {
      if (frame.as === name || name === 'it') return frame.member as Value;
      const member = frame.member as Value;
      if (!isRecord(member)) continue;
      const found = read(member);
      // A field that is there but missing hides what the name means outside.
      if (found !== undefined || Object.hasOwn(member, name)) return found;
    }
    const { record, clock } = context;
    const found = read(record);
    if (found !== undefined || Object.hasOwn(record, name)) return found;
    if (name === 'record') return record;
    if (name === 'loop') return placeIn(context.frame);
    return clock !== null && (name === 'now' || name === 'today') ? clock[name] : undefined;
  };
}
