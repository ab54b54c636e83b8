import type { Fields } from '../formula';
import type { PersonData } from '../record';
import type { Literals } from './literals';

/** One change of a person’s data. */
export interface Move {
  /** What it does, in words: “cart total 60”. */
  words: string;
  make: (data: PersonData) => PersonData;
}

export interface MoveGiven extends Literals {
  /** The paths of the record that are asked: `cart.total`, `person.country`. */
  paths: ReadonlySet<string>;
  /** Products that lines and picks can be made of. */
  products: readonly Fields[];
  now: Date;
  currency: string;
}
