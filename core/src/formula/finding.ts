import type { Shape } from '../shape';
import type { Span } from './ast';

/** Text that put in place of a finding's span mends it. */
export interface Repair {
  label: string;
  text: string;
}

/** What the checker says of a span of a formula. */
export interface Finding extends Span {
  severity: 'error' | 'warning' | 'hint';
  /** A sentence for a content designer. */
  message: string;
  repair?: Repair;
}

export interface CheckResult {
  type: Shape;
  findings: Finding[];
}

/** What a formula is used for; each use asks for something else. */
export type Use = 'tag' | 'condition' | 'list' | 'value';

/** A member in scope, from the outside in. */
export interface ScopeFrame {
  shape: Shape;
  as: string | null;
}

export interface CheckOptions {
  use?: Use;
  frames?: readonly ScopeFrame[];
  /** Paths that are known to be filled here, as they print: a condition around says so. */
  filled?: ReadonlySet<string>;
  /** What the records are called in findings: "2 of 12 people". */
  noun?: string;
}
