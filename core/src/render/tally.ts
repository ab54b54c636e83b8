import type { Digest } from './digest';

/** A place of a template at which mails differ from person to person. */
export interface Decision {
  kind: 'condition' | 'list' | 'value' | 'address' | 'picks';
  /** The node's id; empty for the envelope. */
  node: string;
  path: string;
  /** The formula that decides; of an address, its formulas. */
  formula: string;
}

/**
 * What a decision came to, as bits: inside a loop several can be true of one mail. Of a condition, whether it held;
 * of a list, how many members it showed, in bands; of a value, whether it was given, blank, or a fallback; of an address,
 * whether there was one that may stand in a mail; of picks, which steps of the rule chose them.
 */
export const OUTCOMES = {
  condition: ['held', 'not'],
  list: ['none', 'one', 'two', 'three', 'some', 'many'],
  value: ['given', 'blank', 'fallback'],
  address: ['given', 'blank'],
  picks: ['first', 'second', 'third', 'fourth', 'later'],
} as const satisfies Record<Decision['kind'], readonly string[]>;

export type Outcome = (typeof OUTCOMES)[Decision['kind']][number];

/** The bit of an outcome of a kind of decision. */
export function bitOf<K extends Decision['kind']>(
  kind: K,
  outcome: (typeof OUTCOMES)[K][number],
): number {
  return 1 << (OUTCOMES[kind] as readonly string[]).indexOf(outcome);
}

/** The outcomes that bits stand for. */
export function outcomesOf(kind: Decision['kind'], bits: number): Outcome[] {
  return OUTCOMES[kind].filter((_, i) => (bits & (1 << i)) !== 0);
}

/** The bit of how many members a list showed: 0, 1, 2, 3, 4 to 6, 7 or more. */
export const bandOf = (count: number): number => 1 << (count < 4 ? count : count < 7 ? 4 : 5);

/** Counts what decides while mails are filled: given to `prepare`, and read after each mail. */
export class Tally {
  readonly decisions: Decision[] = [];
  /** Of the mail that was filled last: for each decision the bits of its outcomes, 0 where it was never asked. */
  readonly bits: number[] = [];
  /** Whether a fallback was needed since this was last set to false. */
  fellBack = false;
  /** Products that this mail offers: those of lists over catalogs and picks. */
  readonly offered = new Set<string>();
  /** Those of them that stand above them already. */
  readonly twice = new Set<string>();
  /** Told each address of a mail, when set. */
  onAddress: ((decision: number, address: string) => void) | null = null;
  /** Told every value and address of a mail, when set. */
  digest: Digest | null = null;
  private readonly known = new Map<string, number>();

  /** The number of a decision; the same place said twice, as in the head of a page, is one. */
  decision(made: Decision): number {
    const key = `${made.kind} ${made.node} ${made.path} ${made.formula}`;
    const known = this.known.get(key);
    if (known !== undefined) return known;
    const index = this.decisions.push(made) - 1;
    this.bits.push(0);
    this.known.set(key, index);
    return index;
  }

  /** Hot: once for each decision of each mail. */
  saw(index: number, bit: number): void {
    (this.bits as number[])[index] = (this.bits[index] ?? 0) | bit;
  }

  /** Before the next mail. */
  clear(): void {
    this.bits.fill(0);
    this.digest?.clear();
    if (this.offered.size > 0) this.offered.clear();
    if (this.twice.size > 0) this.twice.clear();
  }

  /** What was decided, as text: equal for mails of one variant. */
  key(): string {
    return String.fromCharCode(...this.bits.map((bits) => bits + 35));
  }
}
