/** A mail has at most this many characters, its own words and what fills it; past it loops stop. */
export const MAX_MAIL = 4_000_000;
/** A mail repeats at most this many members in all. */
export const MAX_REPEATS = 20_000;
/** All formulas of one mail take at most this many steps together. */
export const MAX_MAIL_STEPS = 5_000_000;

/** Which bound of a mail stops it. */
export type CutBy = 'length' | 'repeats' | 'work';

/** Where a mail ran into a bound first: what belongs after it is missing. */
export interface Cut {
  by: CutBy;
  /** The node’s id; empty for the envelope, and where it cannot be told. */
  node: string;
  path: string;
}

const figure = (n: number) => n.toLocaleString('en-GB');

const BOUNDS: Record<CutBy, string> = {
  length: `an email can have at most ${figure(MAX_MAIL)} characters`,
  repeats: `an email can repeat at most ${figure(MAX_REPEATS)} items in all`,
  work: 'its lists and formulas need more work than one email may take',
};

/** Why a mail is cut off, as the end of a sentence: “a mail repeats at most 20,000 members in all”. */
export const sayBound = (by: CutBy): string => BOUNDS[by];
