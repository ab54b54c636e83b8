import type { Grid, OutputPlace } from './placeholders';

/** The version of programs; a program is rebuilt, never brought forward. */
export const PROGRAM_VERSION = 1;

/** A part of an address: words, or the index of a formula. */
export type AddressPart = string | number;

/** What a loop walks: indexes of formulas. */
export interface LoopProgram {
  list: number;
  as: string;
  where?: number;
  by?: number;
  down?: boolean;
  atMost?: number;
  fill?: number;
  /** What the mail shows above is left out. */
  once?: true;
}

/** One operation of a program; numbers named as formulas are indexes into its formulas. */
export type Op =
  | string
  | { op: 'value'; formula: number; place: OutputPlace; node: string; path: string }
  | {
      op: 'address';
      parts: AddressPart[];
      scheme: 'link' | 'picture';
      place: 'html' | 'plain';
      node: string;
      path: string;
    }
  | {
      op: 'ifAddress';
      parts: AddressPart[];
      scheme: 'link' | 'picture';
      node: string;
      path: string;
      then: Op[];
      else: Op[];
    }
  | { op: 'condition'; formula: number; node: string; path: string; then: Op[]; else: Op[] }
  | { op: 'loop'; loop: LoopProgram; node: string; path: string; body: Op[]; grid?: Grid }
  | { op: 'node'; node: string; body: Op[] }
  | { op: 'field'; path: string; body: Op[] };

/** Operations with words that meet joined. */
export function joined(ops: readonly Op[]): Op[] {
  const all: Op[] = [];
  for (const op of ops) {
    const last = all.at(-1);
    if (typeof op === 'string' && typeof last === 'string') all[all.length - 1] = last + op;
    else all.push(op);
  }
  return all;
}

/** The operations of one kind. */
export type OpOf<K extends Exclude<Op, string>['op']> = Extract<Op, { op: K }>;

/**
 * A template made ready: static strings between operations. Plain JSON, the same in the browser,
 * in a worker thread and on the command line.
 */
export interface Program {
  version: typeof PROGRAM_VERSION;
  /** What links into the web carry. */
  linkTags?: { parameter: string; parts: AddressPart[] }[];
  /** The sources of the formulas. */
  formulas: string[];
  /** A condition, by its index: who it does not hold for gets no mail. */
  onlyIf?: number;
  /** The mail reads from right to left: words of another direction among its values are kept together. */
  isolates?: true;
  fromName: Op[];
  fromEmail: string;
  /** The recipient’s name, where the envelope has one. */
  toName?: Op[];
  subject: Op[];
  preview: Op[];
  html: Op[];
  text: Op[];
}
