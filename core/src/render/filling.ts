import type { Context } from '../formula';
import { MAX_MAIL, MAX_REPEATS, type Cut } from './cut';
import type { RenderOptions } from './record';
import { MAX_TRAIL, type Trail, type TrailEntry } from './trail';

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
  /** The first bound that it ran into; null as long as it is whole. */
  cut: Cut | null;
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
  /** Told every address that gets link tags; null where nobody asks. */
  tagged: string[] | null;
}

/** Where in a template something stands. */
type Place = Pick<Cut, 'node' | 'path'>;

/** Remembers that the mail is cut off here, where it was not before. */
export function cutOff(f: Filling, by: Cut['by'], { node, path }: Place): void {
  f.cut ??= { by, node, path };
}

/** Whether a mail is past a bound; then nothing more is repeated in it. */
export function isPast(f: Filling, place: Place): boolean {
  if (f.repeats > MAX_REPEATS) cutOff(f, 'repeats', place);
  else if (f.length > MAX_MAIL) cutOff(f, 'length', place);
  else if (f.context.total <= 0) cutOff(f, 'work', place);
  else return false;
  return true;
}

/** Puts what fills itself at the end, as long as there is room in a mail. */
export function put(f: Filling, text: string, place: Place): void {
  f.length += text.length;
  if (f.length <= MAX_MAIL) f.out.push(text);
  else cutOff(f, 'length', place);
}
/** Puts what an operation gives at the end of the pieces. */
export type Run = (f: Filling) => void;

/** What an entry tells of a node; null for values. */
export const outcomeOf = (entry: TrailEntry): string | null =>
  entry.is === 'value' ? null : `${entry.node} ${entry.path}`;

/** Past the bound, what nodes did is still told, once each: a hidden one is never told as shown. */
export function note(f: Filling, entry: TrailEntry): void {
  if (!f.trail) return;
  const outcome = outcomeOf(entry);
  const isNew = outcome !== null && !f.outcomes.has(outcome);
  if (outcome !== null) f.outcomes.add(outcome);
  if (f.trail.length < MAX_TRAIL || isNew) f.trail.push(entry);
}
