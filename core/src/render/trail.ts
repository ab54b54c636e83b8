import { fieldOf, isRecord, type Explanation, type Value } from '../formula';

/** One thing that happened while a mail was filled, and why. */
export type TrailEntry = { node: string; path: string; formula: string } & (
  | {
      is: 'condition';
      held: boolean;
      /** Why, in words with values: “cart total £3.40 is under £50.00”. */
      said: string;
      why: Explanation;
    }
  | {
      is: 'loop';
      as: string;
      /** How many members the list had, how many were left by the filter, and how many were shown. */
      before: number;
      kept: number;
      shown: number;
      /** Short names of the members, at most 12, with whether each was shown. */
      members: { name: string; shown: boolean }[];
    }
  | { is: 'value'; text: string; fallback: boolean; why: Explanation }
);

/** Everything that happened, in order. Values are told for the first members of a loop only. */
export type Trail = TrailEntry[];

export const MAX_TRAIL = 400;

/** A member in a word: its name, title, SKU or number, else its place. */
export function memberName(member: Value, index: number): string {
  if (isRecord(member)) {
    for (const name of ['name', 'title', 'sku', 'number', 'value']) {
      const value = fieldOf(member, name);
      if (typeof value === 'string' && value.trim() !== '') return value;
    }
  } else if (typeof member === 'string' || typeof member === 'number') return String(member);
  return `no. ${index + 1}`;
}
