import type { PostponeReason } from './reasons';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;
const WEEK = 7 * DAY;

/** An email that one person has received, or is to receive. */
export interface LedgerEntry {
  /** One email for one cause and step, ever. */
  key: string;
  occasion: string;
  cause: string;
  step: string;
  /** When it went, or is due, in milliseconds. */
  at: number;
  marketing: boolean;
  /** Whether it was handed over; null where that is not told apart, as when emails are created. */
  isGone?: boolean;
  /** Of two that wait, the higher goes first. */
  priority?: number;
  subject?: string;
}

/** How many marketing emails one person receives at most; 0 for any number. */
export interface Limits {
  most_a_day: number;
  most_a_week: number;
}

/** An email for which a ledger is read. */
export interface LedgerQuestion {
  key: string;
  occasion: string;
  cause: string;
  /** When it would go, in milliseconds. */
  at: number;
  priority: number;
}

/** Whether another email is counted: it has gone, or waits as well and goes first. */
function countsBefore(entry: LedgerEntry, { key, at, priority }: LedgerQuestion): boolean {
  if (entry.key === key || entry.at > at) return false;
  if (entry.isGone !== false) return true;
  const higher = (entry.priority ?? 0) - priority;
  return higher !== 0 ? higher > 0 : entry.key < key;
}

function limitReached(
  entries: readonly LedgerEntry[],
  at: number,
  limits: Limits,
): 'a_day' | 'a_week' | null {
  const within = (span: number) => entries.filter((one) => at - one.at < span).length;
  if (limits.most_a_day > 0 && within(DAY) >= limits.most_a_day) return 'a_day';
  if (limits.most_a_week > 0 && within(WEEK) >= limits.most_a_week) return 'a_week';
  return null;
}

/** A limit that is reached: which one, and until when an email waits for it, in milliseconds. */
export interface LimitReached {
  why: PostponeReason;
  until: number;
}

/**
 * Which limit keeps a marketing email back; null where none does. Where only another email that waits is in the way, it
 * is looked at again in a minute, when that one has gone or was stopped.
 */
export function limitOf(
  ledger: readonly LedgerEntry[],
  question: LedgerQuestion,
  limits: Limits,
): LimitReached | null {
  const counted = ledger.filter((one) => one.marketing && countsBefore(one, question));
  const why = limitReached(counted, question.at, limits);
  if (why === null) return null;
  const gone = counted.filter((one) => one.isGone !== false);
  if (limitReached(gone, question.at, limits) === null)
    return { why: 'priority', until: question.at + MINUTE };
  const frees = gone
    .flatMap(({ at }) => [at + DAY, at + WEEK])
    .filter((at) => at > question.at)
    .sort((a, b) => a - b);
  const until = frees.find((at) => limitReached(gone, at, limits) === null);
  return { why, until: until ?? question.at + WEEK };
}

/** Whether the person received an email of this occasion, for another cause, not long ago. The emails of one way belong together. */
export function mustRest(
  ledger: readonly LedgerEntry[],
  question: LedgerQuestion,
  restDays: number,
): boolean {
  if (restDays === 0) return false;
  const own = ledger.filter(
    (one) => one.occasion === question.occasion && countsBefore(one, question),
  );
  return (
    own.every((one) => one.cause !== question.cause) &&
    own.some((one) => question.at - one.at < restDays * DAY)
  );
}

/** What went to an address of late, whoever’s it is. */
export interface RecentEmail {
  /** Milliseconds. */
  at: number;
  subject: string;
  marketing: boolean;
}

/** Whether an email would be one that the address just received: nobody means to send that. */
export function repeated(
  recent: readonly RecentEmail[],
  { subject, at }: { subject: string | null; at: number },
): 'twice_a_minute' | 'same_subject' | null {
  const others = recent.filter((one) => one.marketing && Math.abs(at - one.at) < DAY);
  if (others.some((one) => Math.abs(at - one.at) < MINUTE)) return 'twice_a_minute';
  return subject !== null && others.some((one) => one.subject === subject) ? 'same_subject' : null;
}
