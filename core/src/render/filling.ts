import type { Context } from '../formula';
import type { RenderOptions } from './record';
import { MAX_TRAIL, type Trail, type TrailEntry } from './trail';

/** A mail has at most this many characters, its own words and what fills it; past it loops stop. */
export const MAX_MAIL = 4_000_000;
/** A mail repeats at most this many members in all. */
export const MAX_REPEATS = 20_000;

/** What a link carries: a parameter of its address, with its value unencoded. */
export interface LinkTagValue {
  parameter: string;
  value: string;
}

export interface Filling {
  context: Context;
  /** The pieces so far; joined once at the end, which is quicker than growing a string. */
  out: string[];
  repeats: number;
  length: number;
  trail: Trail | null;
  /** Of a mail that is not made: about how many characters its HTML would have. */
  size: number;
  /** What the trail tells of nodes so far, by node and path. */
  outcomes: Set<string>;
  lengths: RenderOptions['lengths'];
  /** What links into the web carry; null until the first one asks. */
  linkTags: LinkTagValue[] | null;
  /** The SKUs of the products that loops showed so far; null where no loop asks for it. */
  products: Set<unknown> | null;
}

/** Puts what fills itself at the end, as long as there is room in a mail. */
export function put(f: Filling, text: string): void {
  f.length += text.length;
  if (f.length <= MAX_MAIL) f.out.push(text);
}
/** Puts what an operation gives at the end of the pieces. */
export type Run = (f: Filling) => void;

/** Past the bound, what nodes did is still told, once each: a hidden one is never told as shown. */
export function note(f: Filling, entry: TrailEntry): void {
  if (!f.trail) return;
  const outcome = entry.is === 'value' ? null : `${entry.node} ${entry.path}`;
  const isNew = outcome !== null && !f.outcomes.has(outcome);
  if (outcome !== null) f.outcomes.add(outcome);
  if (f.trail.length < MAX_TRAIL || isNew) f.trail.push(entry);
}
