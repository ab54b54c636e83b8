/** A formula has at most this many characters. */
export const MAX_LENGTH = 4_000;
/** Parentheses, lists, calls, indexes and prefix operators nest at most this deep. */
export const MAX_DEPTH = 64;
/** One evaluation takes at most this many steps; a step is about one node for one member. */
export const MAX_STEPS = 100_000;
/** A list that a formula makes has at most this many members. */
export const MAX_MEMBERS = 10_000;
/** A text that a formula makes has at most this many characters. */
export const MAX_TEXT = 100_000;
