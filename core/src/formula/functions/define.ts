import type { Node } from '../ast';
import { MAX_TEXT } from '../bounds';
import { Bound, miss, spend, type Context, type Evaluate } from '../context';
import { textOf } from '../members';
import { isList, scalarText, textSteps, type Value } from '../values';

/** The type of what a function gives; `member` is the type of a list's members, `same` of its first value. */
export type Gives = 'text' | 'number' | 'boolean' | 'date' | 'list' | 'member' | 'same' | 'any';
export type FunctionGroup = 'lists' | 'text' | 'numbers' | 'dates' | 'choice';

export type Call = Node & { type: 'call' };

/** One function of the language. To add one, add it to the list of its group. */
export interface FormulaFunction {
  name: string;
  group: FunctionGroup;
  /** How it is written, for help and completion. */
  usage: string;
  /** One plain sentence. */
  description: string;
  least: number;
  most: number;
  /** Which argument is evaluated for every member of the first, with the member's fields in scope. */
  member?: number;
  gives: Gives;
  /** What the values it is given must be; those of its group (see `takenBy`) where it is left out. */
  takes?: readonly Takes[];
  make(args: Evaluate[], call: Call): Evaluate;
}

/** What a function can be given: a kind of value, or `any`. */
export type Takes = 'text' | 'number' | 'date' | 'list' | 'boolean' | 'any';

const OF_GROUP: Record<FunctionGroup, readonly Takes[]> = {
  lists: ['list', 'any', 'any'],
  text: ['text', 'any', 'any'],
  numbers: ['number', 'any'],
  dates: ['date', 'any'],
  choice: [],
};

/** What a function takes at a place. */
export function takenBy({ group, takes = OF_GROUP[group] }: FormulaFunction, place: number): Takes {
  return takes[place] ?? 'any';
}

/** Holds the bound on texts that a formula makes. */
export function boundedText(text: string): string {
  if (text.length > MAX_TEXT) throw new Bound(`A text has at most ${MAX_TEXT} characters.`);
  return text;
}

/** A value given to a function of texts: a text, a number or boolean as it prints, a list joined. */
export function givenText(value: Value, context: Context): string | undefined {
  if (typeof value === 'string') return boundedText(value);
  if (isList(value)) return boundedText(textOf(value, context));
  return typeof value === 'object' || value === undefined ? undefined : scalarText(value, () => '');
}

/** The argument at an index, missing when it was left out. */
export function argument(args: Evaluate[], index: number): Evaluate {
  return args[index] ?? (() => undefined);
}

interface TextOptions {
  gives?: Gives;
  /** What working over a text costs. */
  steps?: (text: string) => number;
}

/** A function of one text, in the recipient's language (BCP 47), that gives a value; missing stays missing. */
export function ofText(
  group: FunctionGroup,
  name: string,
  description: string,
  apply: (text: string, tag: string) => Value,
  { gives = 'text', steps = ({ length }) => textSteps(length) }: TextOptions = {},
): FormulaFunction {
  return {
    name,
    group,
    usage: `${name}(text)`,
    description,
    least: 1,
    most: 1,
    gives,
    make(args, call) {
      const of = argument(args, 0);
      return (c) => {
        const text = givenText(of(c), c);
        if (text === undefined) return miss(c, call, `There is no text for “${name}”.`);
        spend(c, steps(text));
        const value = apply(text, c.locale.tag);
        return typeof value === 'string' ? boundedText(value) : value;
      };
    },
  };
}
