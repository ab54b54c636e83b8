import { limitOf, mustRest, repeated } from './ledger';
import type { LedgerEntry, Limits, RecentEmail } from './ledger';
import type { HoldReason, PostponeReason, StopReason } from './reasons';

/** What is known when somebody asks whether an email may go. What costs much is asked for only where it matters. */
export interface SendRequest {
  /** When it would go, in milliseconds. */
  at: number;
  email: {
    key: string;
    occasion: string;
    cause: string;
    marketing: boolean;
    /** A copy to the shop’s own address. */
    toOwner: boolean;
    priority: number;
    /** Null before it is filled. */
    subject: string | null;
  };
  /** Whether the occasion is on, and was on when the email was created. */
  isOn: boolean;
  step: { mode: 'on' | 'held' | 'off'; template: string };
  /** Null for somebody who was deleted. `refused`: the mail server said that there is no such address. */
  person: { consent: boolean; refused: boolean } | null;
  causeStands(): boolean;
  /** Whether the same email went to another address of the same person. */
  sentElsewhere(): boolean;
  /** The step of the first guard before this email that does not hold; null where all hold. */
  failedGuard(): string | null;
  ledger(): readonly LedgerEntry[];
  limits: Limits;
  /** What becomes of an email that a limit keeps back. */
  overLimit: 'postpone' | 'drop';
  restDays: number;
  /** What went to this address within a day, of any shop; not asked when an email is created. */
  recent(): readonly RecentEmail[];
  /** For which reasons somebody approved this very email. */
  approved: Pick<ReadonlySet<HoldReason>, 'has'>;
}

export type SendAnswer =
  | { kind: 'send' }
  | { kind: 'stop'; why: StopReason; guard?: string }
  | { kind: 'hold'; why: HoldReason }
  | { kind: 'postpone'; why: PostponeReason; until: number };

const SEND: SendAnswer = { kind: 'send' };
const stop = (why: StopReason): SendAnswer => ({ kind: 'stop', why });

/**
 * Whether an email may go now. The one rule: asked when the email is created, when it is filled and when it is handed
 * over.
 */
export function maySend(request: SendRequest): SendAnswer {
  const { at, email, step, person, approved } = request;
  if (!request.isOn) return stop('switched_off');
  if (person === null) return stop('unknown_person');
  if (person.refused && !email.toOwner) return stop('refused');
  if (!request.causeStands()) return stop('gone');
  if (request.sentElsewhere()) return stop('elsewhere');
  const guard = request.failedGuard();
  if (guard !== null) return { kind: 'stop', why: 'guard', guard };
  if (!email.toOwner && request.restDays > 0) {
    const { key, occasion, cause, priority } = email;
    const question = { key, occasion, cause, at, priority };
    if (mustRest(request.ledger(), question, request.restDays)) return stop('rest');
  }
  if (step.mode === 'off') return stop('step_off');
  if (step.template === '') return stop('no_template');
  const isAsked = email.marketing && !email.toOwner;
  if (isAsked && !person.consent) return stop('consent');
  if (!isAsked) return SEND;
  return limited(request) ?? repetition(request, approved) ?? SEND;
}

function limited({ at, email, ledger, limits, overLimit }: SendRequest): SendAnswer | null {
  if (limits.most_a_day === 0 && limits.most_a_week === 0) return null;
  const { key, occasion, cause, priority } = email;
  const limit = limitOf(ledger(), { key, occasion, cause, at, priority }, limits);
  if (limit === null) return null;
  // An email that waits for another one to go first is not over any limit yet.
  if (overLimit === 'drop' && limit.why !== 'priority') return stop(limit.why);
  return { kind: 'postpone', ...limit };
}

function repetition(
  { at, email, recent }: SendRequest,
  approved: Pick<ReadonlySet<HoldReason>, 'has'>,
): SendAnswer | null {
  const why = repeated(recent(), { subject: email.subject, at });
  return why === null || approved.has(why) ? null : { kind: 'hold', why };
}
