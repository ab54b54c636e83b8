import type { Tally } from './tally';

/** How a program is made ready to be filled. */
export interface PrepareOptions {
  trail?: boolean;
  /** Counts what decides. */
  tally?: Tally;
  /** With a tally: only what decides is reckoned, and no HTML is made; `size` says about how much it would be. */
  dry?: boolean;
  /** Tells which products loops showed. */
  products?: boolean;
  /** Without the text part where it is false. */
  text?: boolean;
  /** Bounds of nodes as comments, and values in marked spans: for a canvas, never for a mail. */
  canvas?: boolean;
}
