import type { About } from './define';

/** A person's way through one occasion for one cause. */
export interface Run {
  occasion: string;
  /** The version that it goes by, whatever is published meanwhile. */
  version: number;
  cause: string;
  about: About;
  /** When it is looked at next, in milliseconds. */
  due: number;
  /** Since when they are inside; null while they only may come in. */
  entered: number | null;
  /** The op that comes next. */
  next: number;
  /** Since when a guard is asked again and again. */
  asking?: number;
  /** The mails it made. */
  mails: { step: string; at: number }[];
  /** When the cart was touched last, as they came in. */
  cart?: string;
}

/** A mail that was made for a person. */
export interface MadeMail {
  occasion: string;
  cause: string;
  step: string;
  at: number;
  marketing: boolean;
}

/** When a cause was used, and whether the person came in by it. */
export interface Settled {
  at: number;
  entered: boolean;
}

/** All that the engine knows of one person. Plain data. */
export interface PersonState {
  runs: readonly Run[];
  /** Causes that were used, by occasion and cause: when, and whether the person came in. */
  settled: Readonly<Record<string, Settled>>;
  /** Mails of late, the latest last. */
  mails: readonly MadeMail[];
  /** Whether they are in each segment that an occasion watches, by its name. */
  segments: Readonly<Record<string, Membership>>;
}

/** Whether a person was in a segment when that was last different, or first known. */
export interface Membership {
  is: boolean;
  /** Milliseconds. */
  at: number;
  /** The mark of the condition by which it was known. */
  mark: number;
}

export const NEW_STATE: PersonState = { runs: [], settled: {}, mails: [], segments: {} };

export const causeKey = (occasion: string, cause: string): string => `${occasion} ${cause}`;

/** The name of a mail among those of its person: one for a cause and a step, ever. */
export const mailKey = (occasion: string, cause: string, step: string): string =>
  `${causeKey(occasion, cause)} ${step}`;

/** When the person is to be looked at next, in milliseconds; null where nothing waits. */
export function nextDue({ runs }: PersonState): number | null {
  return runs.length === 0 ? null : Math.min(...runs.map(({ due }) => due));
}

const DAY = 86_400_000;
/** Mails and causes are remembered so long, in days: longer than any rest and any year. */
const REMEMBERED = 800;
const MOST_REMEMBERED = 500;

/** Forgets what can play no part any more. */
export function trimmed(state: PersonState, at: number): PersonState {
  const { settled, mails } = state;
  const causes = Object.keys(settled);
  if (causes.length <= MOST_REMEMBERED && mails.length <= MOST_REMEMBERED) return state;
  const oldest = at - REMEMBERED * DAY;
  return {
    ...state,
    settled: Object.fromEntries(Object.entries(settled).filter(([, one]) => one.at >= oldest)),
    mails: mails.filter((one) => one.at >= oldest).slice(-MOST_REMEMBERED),
  };
}
