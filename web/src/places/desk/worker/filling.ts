import type { Program } from '@carafe/core/build';
import type { Fields } from '@carafe/core/formula';
import {
  ownRecord,
  packDays,
  sharedRecord,
  type PersonData,
  type SharedData,
} from '@carafe/core/record';
import { prepare, type Render } from '@carafe/core/render';
import type { Template } from '@carafe/core/template';
import type { Filled } from './messages';

/** A template that was built, ready to be filled. */
export interface Made {
  /** The template as it was given. */
  of: Template;
  /** As it was built: every formula as it could last be read. */
  template: Template;
  program: Program;
  render: Render;
  key?: string;
}

export const made = (of: Template, template: Template, program: Program): Made => ({
  ...{ of, template, program },
  render: prepare(program, { trail: true, canvas: true }),
});

/** All that a mail for the canvas is filled from. */
export interface Filling {
  person: number;
  /** ISO 8601. */
  asOf: string;
  data: PersonData;
  shared: SharedData;
  products: Map<string, Fields>;
  lengths: Record<string, number>;
  main: Made;
  /** The mail with an else that is looked at; null where none is. */
  peeked: Made | null;
}

/** A mail as a recipient gets it; which turn it is has still to be said. */
export type FilledOnce = Omit<Filled, 'turn'>;

/** Fills the mail for one recipient. */
export function fillOnce(filling: Filling): FilledOnce {
  const { person, data, shared, products, lengths, main, peeked } = filling;
  const own = ownRecord(data, shared, products);
  const asOf = new Date(filling.asOf);
  const record = { ...own, ...sharedRecord(shared) };
  const options = { asOf, lengths };
  const filled = main.render(record, options);
  return {
    person,
    mail: peeked ? peeked.render(record, options).mail : filled.mail,
    trail: filled.trail ?? [],
    held: filled.held === true,
    cut: filled.cut ?? null,
    formulas: (peeked ?? main).program.formulas,
    own: packDays(own) as Fields,
  };
}

/** Keeps the mail that is likely to be asked for next. It is good as long as all that it was filled from is the same. */
export class Ahead {
  private kept: { from: Filling; filled: FilledOnce } | null = null;

  fill(from: Filling): void {
    if (!this.has(from)) this.kept = { from, filled: fillOnce(from) };
  }

  /** The mail that was filled ahead, or one that is filled now. */
  take(from: Filling): FilledOnce {
    return this.has(from) && this.kept ? this.kept.filled : fillOnce(from);
  }

  private has(from: Filling): boolean {
    const before = this.kept?.from;
    return (
      before !== undefined &&
      (Object.keys(from) as (keyof Filling)[]).every((name) => before[name] === from[name])
    );
  }
}
