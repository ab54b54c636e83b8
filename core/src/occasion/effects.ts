import type { Fields } from '../formula';
import type { AskedValue } from './askedValues';
import type { About } from './define';
import type { PostponeReason } from '../sending';
import type { SendStep } from './occasion';
import type { Reason } from './reasons';

interface Of {
  occasion: string;
  version: number;
  cause: string;
  about: About;
  /** Milliseconds. */
  at: number;
}

/** A mail that is to be made. */
export interface MailEffect extends Of {
  kind: 'mail';
  /** One mail for one cause and step, ever. */
  key: string;
  step: SendStep;
  /** What the occasion adds to the record that it is filled from. */
  beside: Fields;
}

/** A condition that was asked. */
export interface AskedEffect extends Of {
  kind: 'asked';
  step: string;
  held: boolean;
  /** The formula, and what the occasion added to the record then. */
  when: string;
  beside: Fields;
}

interface NotEntered extends Of {
  kind: 'not_entered';
  why: Reason;
}

/** What the engine wants done, or tells. */
export type Effect =
  | (Of & { kind: 'entered' })
  | NotEntered
  | AskedEffect
  | (Of & { kind: 'waits'; step: string; until: number })
  | MailEffect
  | (Of & { kind: 'not_made'; step: string; why: Reason })
  | (Of & { kind: 'postponed'; step: string; why: PostponeReason; until: number })
  | (Of & { kind: 'ended'; step: string | null; why: Reason | null });

/** An effect as it is kept: of what was asked the values, which nobody can reckon later. */
export type ToldEffect =
  | Exclude<Effect, AskedEffect | NotEntered>
  | ((Omit<AskedEffect, 'when' | 'beside'> | NotEntered) & { values?: AskedValue[] });
